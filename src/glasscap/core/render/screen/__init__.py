"""Frames for the bench."""
