"""Zesty Veil predicts the colour of stacked transparent paint films."""

import os

# Products of matrices are small here; threads that spin for the next one would take the processor
# from the window. It is read when numpy is first imported.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

__version__ = "0.1.0"
