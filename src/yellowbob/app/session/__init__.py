"""The open design, its undo and recovery, slow results, settings and instruments."""
