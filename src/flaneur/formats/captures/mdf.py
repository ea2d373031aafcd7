"""MDF4 measurement files (docs/formats/capture-mdf4.md), by asammdf.

The library follows the links of a file without a bound: a damaged one can send it round in circles
or deep into recursion. It is only ever read in a process of its own (apart.py).
"""

from pathlib import Path
from typing import Any

import numpy as np

from flaneur.core.errors import CaptureError
from flaneur.core.signals.capture import Capture
from flaneur.formats.captures.layout import MOST_CHANNELS
from flaneur.formats.captures.text import even_rate, plain_name


def read_mdf(path: Path, name: str) -> Capture:
    """Read the channels of the group sampled most often, with every group sampled at the same
    times. Raises CaptureError.
    """
    from asammdf import MDF  # slow to import, and seldom needed

    try:
        with MDF(str(path)) as file:
            channels, times = _fastest(file, name)
    except (CaptureError, MemoryError):
        raise
    except Exception as error:  # the library raises what it happens to run into
        raise CaptureError(
            "The MDF4 file is damaged.",
            read=f"{name}: {error}"[:160],
            expected="a whole MDF4 measurement",
            advice="Copy it again.",
        ) from error
    rate, notes = even_rate(times)
    return Capture(rate, channels, name, notes)


def _fastest(file: Any, name: str) -> tuple[dict[str, np.ndarray], np.ndarray]:
    """Channels and times of the best-sampled groups."""
    lengths = [int(g.channel_group.cycles_nr) for g in file.groups]
    most = max(lengths, default=0)
    if most < 16:
        raise CaptureError(
            "The measurement has no samples.",
            read=f"{name}, {len(lengths)} groups, {most} samples",
            expected="a recorded capture",
        )
    channels: dict[str, np.ndarray] = {}
    times: np.ndarray | None = None
    for index, length in enumerate(lengths):
        if length != most:
            continue
        master = np.asarray(file.get_master(index), dtype=np.float64)
        if times is not None and not np.allclose(master, times, rtol=0, atol=1e-9):
            continue
        times = master
        for position, channel in enumerate(file.groups[index].channels):
            if channel.channel_type in (2, 3):  # master and virtual master: time itself
                continue
            signal = file.get(group=index, index=position)
            values = np.asarray(signal.samples)
            if values.ndim != 1 or values.dtype.kind not in "iuf":
                continue
            factor = 1e-3 if str(signal.unit).strip().lower() == "mv" else 1.0
            label = plain_name(str(signal.name))
            channels[label if label not in channels else f"{label}_{index}"] = (
                values * factor
            ).astype(np.float32)
    if times is None or not channels:
        raise CaptureError(
            "The measurement has no channels of numbers.", read=name, expected="sensor voltages"
        )
    if len(channels) > MOST_CHANNELS:
        raise CaptureError(
            "The capture has too many channels.",
            read=str(len(channels)),
            expected=f"at most {MOST_CHANNELS}",
        )
    return channels, times
