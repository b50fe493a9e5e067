"""Where a part goes on its face, and what is drawn of it."""
