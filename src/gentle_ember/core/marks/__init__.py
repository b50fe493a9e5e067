"""Marks and clearances: where a part goes on a face, how it is drilled, what is printed for it."""
