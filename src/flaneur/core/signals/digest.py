"""What stands for the samples of a capture in a record."""

import hashlib

import numpy as np

from flaneur.core.record.canonical import canonical
from flaneur.core.signals.capture import Capture


def samples_digest(capture: Capture) -> str:
    """SHA-256 over rate, channel names and samples (float32, little-endian, channel after channel):
    64 hexadecimal digits.
    """
    found = hashlib.sha256(
        canonical({"rate_hz": capture.rate_hz, "channels": list(capture.channels)}).encode()
    )
    for samples in capture.channels.values():
        found.update(np.ascontiguousarray(samples, dtype="<f4").data)
    return found.hexdigest()
