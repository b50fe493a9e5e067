"""Gentle Ember: planner, calculator and logbook for generator fuel conversions."""

import os

__version__ = "0.1.0"

# The matrices here are tiny: a pool of threads costs two to four times what it saves, and more on a
# machine that is shared. Read when the numeric libraries load, so set before any of them is.
for _pool in ("OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS", "MKL_NUM_THREADS"):
    os.environ.setdefault(_pool, "1")
