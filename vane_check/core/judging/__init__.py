"""From findings to one outcome: what condemns, what is still open, the next step, jobs, ends, estimate, outlook."""
