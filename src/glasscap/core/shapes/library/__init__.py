"""Parametric shapes: one file a family, one table of all (``table.SHAPES``)."""
