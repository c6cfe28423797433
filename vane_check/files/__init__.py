"""Files that somebody brings: read in a process of their own, which may take so much time and memory and no more."""
