"""Fitting: the sheet made for this set, method and train; what was done, found and left."""
