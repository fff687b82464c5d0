"""What the menus do: files, items, shapes, letters, pictures handed to other programs."""
