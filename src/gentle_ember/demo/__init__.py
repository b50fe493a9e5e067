"""The demo scenario: a made-up shop in a made-up county, built as a person would build it."""

from gentle_ember.demo.build import seed

__all__ = ["seed"]
