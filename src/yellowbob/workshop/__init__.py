"""The one SQLite file: engine, schema version, migrations, backups, and the tables kept in it."""
