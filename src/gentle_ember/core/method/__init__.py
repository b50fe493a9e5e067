"""Schools of conversion: what each needs, what it gives and costs, and whether it fits this set."""
