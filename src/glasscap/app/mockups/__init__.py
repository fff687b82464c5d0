"""The view of mock-ups."""
