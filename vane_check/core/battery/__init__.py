"""The battery as it is named: its label, codes on the case, doubts about them, and what its volts say of its charge."""
