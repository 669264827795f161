"""Noema reads painted colour exercises from photographs and says what to add next."""

import os

# Arrays here are small: more threads only wait for each other, and change the last digits of sums.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
