"""Where outlines come from."""
