"""Benchmarks: run by hand, never timed in tests."""
