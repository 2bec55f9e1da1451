"""Rates, frame ranges and exact times, keyed channels, eases, and runs of frames. Knows of nothing else in the core."""
