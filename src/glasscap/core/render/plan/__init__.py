"""What is to be drawn: parts in output px, and how far each reaches."""
