"""Shadows, glows and bevels as planes."""
