"""The shape library over the bench."""
