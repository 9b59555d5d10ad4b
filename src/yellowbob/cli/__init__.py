"""The command line, thin: one options module, a command file a bench."""
