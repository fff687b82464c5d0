"""Seamless textures, computed from seeds."""
