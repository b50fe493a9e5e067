"""Fuel path: the train from source to intake, its pressures, its rules, its parts."""
