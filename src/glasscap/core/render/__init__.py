"""From a job to a picture: what is drawn, outlines, paints, the shares of each pixel, light, composing."""
