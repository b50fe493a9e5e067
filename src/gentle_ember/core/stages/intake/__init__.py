"""Intake: what the set is, how it was found, where it will run."""
