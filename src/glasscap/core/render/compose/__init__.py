"""The one exact way: parts with all their finishes as premultiplied planes."""
