"""The steps of the selected cutout."""
