"""The disk: everything that opens, writes or remembers a path."""
