"""The window. The only folder that imports the toolkit."""
