"""Shipped data and the loader that validates it."""

from gentle_ember.catalog.loader import load

__all__ = ["load"]
