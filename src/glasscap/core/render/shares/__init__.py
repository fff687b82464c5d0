"""Shares of each pixel that the content and each stroke fill, feathers included."""
