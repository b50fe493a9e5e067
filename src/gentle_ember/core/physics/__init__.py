"""One published model a function: SI floats in, SI floats out, with its source."""
