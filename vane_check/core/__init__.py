"""The trade, pure: no interface, no database, no I/O but its own packaged tables."""
