"""MDF4 measurement files (docs/formats/capture-mdf4.md), by asammdf in a process of its own.

The library follows the links of a file without a bound: a damaged one can send it round in circles
or deep into recursion. A child process with limits on time and memory keeps that away from the
rest.
"""

import json
import os
import resource
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any

import numpy as np
import pyarrow as pa
import pyarrow.feather as feather

from flaneur.core.errors import CaptureError
from flaneur.core.signals.capture import Capture
from flaneur.formats.captures.layout import MOST_CHANNELS
from flaneur.formats.captures.text import even_rate, plain_name

PATIENCE_S = 8.0
BYTES_PER_S = 20_000_000
MEMORY_BYTES = 12 << 30


def read_mdf(path: Path, source: str | None = None) -> Capture:
    """Read the channels of the group sampled most often, with every group sampled at the same
    times. Raises CaptureError.
    """
    name = source or path.name
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / "channels.feather"
        command = [
            sys.executable,
            "-W",
            "ignore",
            "-m",
            "flaneur.formats.captures.mdf",
            str(path),
            str(out),
            name,
        ]
        patience = PATIENCE_S + path.stat().st_size / BYTES_PER_S
        surroundings = {**os.environ, "PYTHONPATH": os.pathsep.join(p for p in sys.path if p)}
        try:
            done = subprocess.run(
                command,
                capture_output=True,
                text=True,
                timeout=patience,
                check=False,
                env=surroundings,
            )
        except subprocess.TimeoutExpired as error:
            raise _damaged(f"{name}: no end after {error.timeout:.0f} s") from error
        if not out.exists():
            said = done.stdout.strip().splitlines()
            if done.returncode == 3 and said:
                raise CaptureError(**json.loads(said[-1]))
            raise _damaged(f"{name}: {(done.stderr.strip().splitlines() or ['broken off'])[-1]}")
        table = feather.read_table(out, memory_map=False)
    columns = {n: table.column(n).to_numpy() for n in table.column_names}
    times = columns.pop("flaneur time")
    rate, notes = even_rate(times)
    return Capture(rate, {n: np.array(x) for n, x in columns.items()}, name, notes)


def _damaged(read: str) -> CaptureError:
    return CaptureError(
        "The MDF4 file is damaged.",
        read=read[:160],
        expected="a whole MDF4 measurement",
        advice="Copy it again.",
    )


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


def main() -> int:
    """Child process: read argv[1], write its channels to argv[2]. Exit 3 with the refusal as JSON
    on standard output.
    """
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    path, out, name = Path(sys.argv[1]), Path(sys.argv[2]), sys.argv[3]
    from asammdf import MDF

    try:
        with MDF(str(path)) as file:
            channels, times = _fastest(file, name)
    except CaptureError as error:
        print(
            json.dumps(
                {
                    "message": error.message,
                    "read": error.read,
                    "expected": error.expected,
                    "advice": error.advice,
                }
            )
        )
        return 3
    whole = out.with_suffix(".part")
    feather.write_feather(
        pa.table({"flaneur time": times, **channels}), whole, compression="uncompressed"
    )
    whole.replace(out)
    return 0


if __name__ == "__main__":
    sys.exit(main())
