"""Writing pictures."""
