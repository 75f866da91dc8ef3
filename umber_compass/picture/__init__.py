"""The picture engine: drawing, borders, codes, forms, relief, light."""
