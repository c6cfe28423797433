"""The shop: its rules, its equipment, and the questions that set it up."""
