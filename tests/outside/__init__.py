"""Checks against something outside the project."""
