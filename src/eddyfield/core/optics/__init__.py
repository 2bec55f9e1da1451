"""Lenses, the ways of cameras, projection, depth of field and sight lines: what a camera sees of a point."""
