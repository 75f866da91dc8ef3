"""Benchmarks: ratios against a yardstick measured in the same run."""
