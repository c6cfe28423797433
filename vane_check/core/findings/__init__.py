"""What evidence says: kinds, outcomes, steps by name, and one finding."""
