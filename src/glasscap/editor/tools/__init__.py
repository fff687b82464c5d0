"""Pointer tools, one a file: a tool is a generator from press to release."""
