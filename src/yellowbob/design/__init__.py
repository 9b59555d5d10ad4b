"""The document: frozen models of one design, and how it is read, written and migrated."""
