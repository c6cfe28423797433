"""Evidence: what one reading, or several together, say in their case. One module a method: reading + case -> finding."""
