"""Logbook: the set in service."""
