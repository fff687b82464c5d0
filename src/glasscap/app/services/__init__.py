"""Services behind the window: threads, errands, memory, keeping unsaved work."""
