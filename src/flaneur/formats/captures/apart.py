"""Reading a capture whatever it is, in a process of its own where a file can do harm.

A packed file can swell, the libraries for Parquet and MDF4 follow what a file says of itself, and a
large file is large in any format. A child process with limits on time and memory keeps that away
from the rest; which limit was met is said.
"""

import json
import os
import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import pyarrow as pa
import pyarrow.feather as feather

from flaneur.core.errors import CaptureError, ErrorCode
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.notes import Note, NoteCode, code_of
from flaneur.formats.captures.sniff import LARGEST_BYTES, is_harmless, read_here

SMALL_BYTES = 32_000_000  # a plain file up to here is read at once
REFUSED, NO_MEMORY = 3, 4  # exit statuses of the child process
LOOK_EVERY_S = 0.25


@dataclass(frozen=True)
class Limits:
    """What reading one file may take: bytes unpacked, bytes of memory, and seconds: ``base_s`` and
    one more for every ``bytes_per_s`` of the file.
    """

    unpacked_bytes: int = LARGEST_BYTES
    memory_bytes: int = 6 << 30
    base_s: float = 20.0
    bytes_per_s: float = 20e6

    def seconds(self, size: int) -> float:
        """Seconds for a file of ``size`` bytes."""
        return self.base_s + size / self.bytes_per_s


def read_capture(
    path: Path,
    source: str | None = None,
    limits: Limits | None = None,
    meanwhile: Callable[[], object] = lambda: None,
) -> Capture:
    """Read CSV/TSV (also gzipped), WAV, MDF4 or Parquet. ``meanwhile`` is called while a child
    process reads; what it raises ends the reading. Raises CaptureError for anything that is none of
    them, is damaged, or meets a limit.
    """
    name, within = source or path.name, limits or Limits()
    if is_harmless(path) and path.stat().st_size <= SMALL_BYTES:
        return read_here(path, name, within.unpacked_bytes)
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / "capture.feather"
        command = [sys.executable, "-W", "ignore", "-m", __name__, str(path), str(out), name]
        command += [str(within.unpacked_bytes), str(within.memory_bytes)]
        surroundings = {
            **os.environ,
            "PYTHONPATH": os.pathsep.join(p for p in sys.path if p),
            "TMPDIR": folder,
        }
        with (Path(folder) / "said").open("w+b") as said:
            patience = within.seconds(path.stat().st_size)
            status = _status(command, surroundings, said, patience, meanwhile)
            said.seek(0)
            lines = said.read().decode("utf-8", "replace").strip().splitlines()
        if status == 0 and out.exists():
            return _loaded(out)
        if status == REFUSED:
            raise _told(_refusal_at(out))
        raise _refusal(name, status, lines, patience, within)


def _status(
    command: list[str],
    surroundings: dict[str, str],
    said: Any,
    patience: float,
    meanwhile: Callable[[], object],
) -> int | None:
    """Exit status of the child process; None when its time was up."""
    with subprocess.Popen(command, stdout=said, stderr=said, env=surroundings) as child:
        try:
            end = time.monotonic() + patience
            while time.monotonic() < end:
                try:
                    return child.wait(LOOK_EVERY_S)
                except subprocess.TimeoutExpired:
                    meanwhile()
            return None
        finally:
            child.kill()


def _refusal(
    name: str, status: int | None, lines: list[str], patience: float, limits: Limits
) -> CaptureError:
    if status is None:
        return CaptureError(
            "Reading the file takes too long.",
            read=f"{name}: no end after {patience:.0f} s",
            expected=f"a capture that is read in {patience:.0f} s",
            advice="Copy it again, or cut it shorter.",
        )
    if status == NO_MEMORY:
        memory = limits.memory_bytes / (1 << 30)
        return CaptureError(
            "The file needs too much memory.",
            read=f"{name}: more than {memory:.3g} GB",
            expected=f"a capture that is read in {memory:.3g} GB",
            advice="Cut it shorter, or record fewer channels.",
        )
    return CaptureError(
        "The file is damaged.",
        read=f"{name}: {(lines or ['broken off'])[-1]}"[:160],
        expected="a whole capture",
        advice="Copy it again.",
    )


def _refusal_at(out: Path) -> Path:
    return out.with_suffix(".refused")


def _told(path: Path) -> CaptureError:
    """The refusal a child process left."""
    fields = json.loads(path.read_text(encoding="utf-8"))
    return CaptureError(**{**fields, "code": ErrorCode(fields["code"])})


def _loaded(out: Path) -> Capture:
    table = feather.read_table(out, memory_map=False)
    about = json.loads((table.schema.metadata or {})[b"capture"])
    channels = {
        n: np.array(table.column(i).to_numpy(), np.float32) for i, n in enumerate(about["names"])
    }
    notes = tuple(Note(NoteCode(code), words) for code, words in about["notes"])
    return Capture(about["rate_hz"], channels, about["source"], notes, about["unit_open"])


def _keep(capture: Capture, out: Path) -> None:
    about = {
        "rate_hz": capture.rate_hz,
        "source": capture.source,
        "unit_open": capture.unit_open,
        "notes": [(code_of(n), n) for n in capture.notes],
        "names": list(capture.channels),
    }
    table = pa.table(list(capture.channels.values()), names=list(capture.channels))
    table = table.replace_schema_metadata({"capture": json.dumps(about)})
    whole = out.with_suffix(".part")
    feather.write_feather(table, whole, compression="uncompressed")
    whole.replace(out)


def main() -> int:
    """Child process: read argv[1], called argv[3], write it to argv[2]; argv[4] and argv[5] are the
    limits on bytes unpacked and in memory. Exit REFUSED with the refusal beside it as JSON,
    NO_MEMORY when there is not enough.
    """
    path, out, name, unpacked, memory = sys.argv[1:6]
    resource.setrlimit(resource.RLIMIT_DATA, (int(memory), int(memory)))
    try:
        _keep(read_here(Path(path), name, int(unpacked)), Path(out))
    except CaptureError as error:
        fields = {k: getattr(error, k) for k in ("message", "read", "expected", "advice", "code")}
        _refusal_at(Path(out)).write_text(json.dumps(fields), encoding="utf-8")
        return REFUSED
    except MemoryError:
        return NO_MEMORY
    return 0


if __name__ == "__main__":
    sys.exit(main())
