"""Gentle Ember: planner, calculator and logbook for generator fuel conversions."""

__version__ = "0.1.0"
