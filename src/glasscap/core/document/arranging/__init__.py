"""Arranging: grips, numbers, several at once, and whether a photo covers its shape."""
