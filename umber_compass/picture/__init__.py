"""The picture engine: drawing, borders, codes, forms, surface buffers, light."""
