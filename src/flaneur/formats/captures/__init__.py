"""Captures in and out. ``read_capture`` knows a file by its first bytes, never by its name."""

from flaneur.formats.captures.apart import Limits, read_capture
from flaneur.formats.captures.parquet import from_parquet, to_parquet
from flaneur.formats.captures.sniff import read_here
from flaneur.formats.captures.text import read_csv, write_csv
from flaneur.formats.captures.wav import read_wav, write_wav

__all__ = [
    "Limits",
    "from_parquet",
    "read_capture",
    "read_csv",
    "read_here",
    "read_wav",
    "to_parquet",
    "write_csv",
    "write_wav",
]
