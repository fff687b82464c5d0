"""Many photos through the steps of one cutout."""
