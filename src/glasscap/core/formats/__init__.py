"""Bytes in, values out, and back: one file a format."""
