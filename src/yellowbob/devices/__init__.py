"""Scale and callipers: a line protocol over a serial port, and simulated ones that ship with the program."""
