"""Benchmarks: each against another way of doing the same, in one run."""
