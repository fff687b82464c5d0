"""The tray."""
