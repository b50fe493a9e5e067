"""Fit: the sheet of steps made for this set, method and train."""
