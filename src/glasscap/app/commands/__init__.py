"""Commands of the menus: files, items, shapes, letters, pictures handed to other programs."""
