"""Photographs by their SHA-256, decoded within a budget, and results kept by what they depend on."""
