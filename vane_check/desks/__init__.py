"""One module per desk: load, call the core, save. Transactions, permissions and announcements live here."""
