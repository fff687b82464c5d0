"""Controls, one a file."""
