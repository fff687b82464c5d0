"""Help inside the program."""
