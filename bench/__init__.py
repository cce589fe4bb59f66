"""Benchmarks: medians and ratios of one run, never tests."""
