"""Which format a capture file is in, and reading it whatever it is."""

import gzip
import shutil
import tempfile
import zlib
from pathlib import Path

from flaneur.core.errors import CaptureError
from flaneur.core.signals.capture import Capture
from flaneur.formats.captures.mdf import read_mdf
from flaneur.formats.captures.parquet import read_parquet
from flaneur.formats.captures.text import read_csv
from flaneur.formats.captures.wav import read_wav

LARGEST_BYTES, MOST_NESTED = 2_000_000_000, 2
PIECE = 1 << 20


def is_harmless(path: Path) -> bool:
    """Whether a file is read as it lies, by rules that cannot be led astray: text or WAV."""
    with path.open("rb") as file:
        return file.read(4) not in (b"PAR1", b"MDF ", b"UnFi") and not _is_packed(path)


def _is_packed(path: Path) -> bool:
    with path.open("rb") as file:
        return file.read(2) == b"\x1f\x8b"


def read_here(path: Path, name: str, most_bytes: int = LARGEST_BYTES, nested: int = 0) -> Capture:
    """Read a file of any format called ``name`` in this process, unpacking at most ``most_bytes``.
    Raises CaptureError for anything that is none of them or damaged.
    """
    with path.open("rb") as file:
        head = file.read(64)
    if not head.strip():
        raise CaptureError(
            "The file is empty.", read=f"{name}, {path.stat().st_size} bytes", expected="a capture"
        )
    if _is_packed(path):
        with tempfile.TemporaryDirectory() as folder:
            plain = Path(folder) / "capture"
            if nested >= MOST_NESTED:
                raise CaptureError(
                    "The file is packed into itself too often.",
                    read=f"gzip in gzip, more than {MOST_NESTED} deep",
                    expected="a capture, packed once",
                    advice="Unpack it, and bring in what is inside.",
                )
            _unpack(path, plain, name, most_bytes)
            return read_here(plain, name.removesuffix(".gz"), most_bytes, nested + 1)
    if head[:4] in (b"RIFF", b"RF64", b"RIFX"):
        return read_wav(path, name)
    if head[:4] == b"PAR1":
        return read_parquet(path, name)
    if head[:4] in (b"MDF ", b"UnFi"):
        return read_mdf(path, name)
    return read_csv(path, name)


def _unpack(path: Path, plain: Path, name: str, most_bytes: int) -> None:
    """Unpack gzip in pieces; a file that swells beyond ``most_bytes`` is refused before it fills
    the disk.
    """
    size = 0
    try:
        with gzip.open(path) as packed, plain.open("wb") as out:
            while piece := packed.read(PIECE):
                size += len(piece)
                if size > most_bytes:
                    raise CaptureError(
                        "The file unpacks to too much.",
                        read=f"{name}: over {most_bytes:,} bytes",
                        expected=f"at most {most_bytes:,} bytes",
                    )
                out.write(piece)
    except (OSError, EOFError, zlib.error) as error:
        shutil.rmtree(plain, ignore_errors=True)
        raise CaptureError(
            "The gzip file is damaged.",
            read=f"{name}: {error}",
            expected="a whole gzip file",
            advice="Copy it again.",
        ) from error
