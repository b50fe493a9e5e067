"""What follows from a set and a site before anything is chosen: output, run times, cylinders."""
