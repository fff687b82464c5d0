"""The bench: the sheet, its handles, the grip bar."""
