"""The made-up shop. Every name, line, car and figure in here is invented."""
