"""Starting the whole: PostgreSQL on loopback, migrations, demo data, the server."""
