"""Edits of outlines: by name, by points, as letters, combined."""
