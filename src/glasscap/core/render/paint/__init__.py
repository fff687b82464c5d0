"""What shows through outlines: photos, drawings, gradients, textures, brushes."""
