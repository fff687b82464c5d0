"""Edits of finishes, finish sets, and finishes as they are at work."""
