__version__ = "0.1.0"

import os

# Matrices here are small, and several processes run side by side: one thread each is quickest.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
