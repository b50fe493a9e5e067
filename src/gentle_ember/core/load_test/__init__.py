"""Load test: what to hang on the set, what is read, the plug, and what follows from it."""
