"""Paintings: small even pieces, joined until a wished number of regions is left."""
