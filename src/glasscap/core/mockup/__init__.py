"""A sheet's picture put into a mock-up's place."""
