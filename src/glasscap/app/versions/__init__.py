"""Versions side by side."""
