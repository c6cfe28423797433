"""The HTTP API: one router per desk, the same names."""
