"""Quantities, figures with their working, errors, and what is kept of pure functions."""
