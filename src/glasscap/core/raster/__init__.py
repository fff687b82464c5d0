"""Pixels: coverage, resampling, compositing."""
