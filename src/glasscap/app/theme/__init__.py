"""Colours, type, icons, style sheet."""
