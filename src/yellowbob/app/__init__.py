"""The window: Qt widgets that show a study and pass edits on. No arithmetic beyond screen coordinates."""
