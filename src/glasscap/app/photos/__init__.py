"""Photographs into a job, and the care of those that are there."""
