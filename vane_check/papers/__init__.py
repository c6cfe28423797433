"""Slips on paper (PDF). Knows the core, nothing else."""
