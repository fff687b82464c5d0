"""Content and paints: photos, drawings, gradients, textures, brushes."""
