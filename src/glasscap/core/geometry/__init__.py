"""Boxes, maps, Bézier outlines and polygons: values and functions on arrays."""
