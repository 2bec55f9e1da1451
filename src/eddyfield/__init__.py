"""Eddyfield: decide what the audience sees, and measure it in the picture."""
