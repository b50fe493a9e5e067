"""The stages of a job in working order; each says everything about itself."""
