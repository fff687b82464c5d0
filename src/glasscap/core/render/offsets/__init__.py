"""A part's outline after inset and roughness, its offset curves, and places along them."""
