"""Shapes: the sources of outlines."""
