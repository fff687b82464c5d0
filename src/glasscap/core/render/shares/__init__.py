"""How much of each pixel the content and each stroke fill, feathers included."""
