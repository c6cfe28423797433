"""One battery over years, and the people who bring it."""
