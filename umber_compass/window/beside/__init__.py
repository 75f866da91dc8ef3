"""The strip beside the painting: a small window that stays on top while the artist paints."""
