"""Metering: reading a sweep of the load screw, and setting it."""
