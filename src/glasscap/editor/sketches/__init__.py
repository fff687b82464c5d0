"""Drawing in several clicks, one way a file: a sketch is a generator that lives until the shape is closed."""
