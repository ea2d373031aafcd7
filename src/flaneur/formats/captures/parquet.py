"""Parquet captures (docs/formats/capture-parquet.md): one float32 column a channel, the sample rate
in the metadata.
"""

import io
import warnings
from pathlib import Path

import numpy as np
import pyarrow as pa
import pyarrow.parquet as pq

from flaneur.core.errors import CaptureError
from flaneur.core.signals.capture import Capture
from flaneur.formats.captures.layout import MOST_CHANNELS
from flaneur.formats.captures.text import capture_from_columns


def to_parquet(capture: Capture) -> bytes:
    """Channels as float32 in one Parquet file, zstd, sample rate in its metadata."""
    table = pa.table({n: pa.array(x, pa.float32()) for n, x in capture.channels.items()})
    table = table.replace_schema_metadata(
        {"rate_hz": repr(capture.rate_hz), "source": capture.source}
    )
    out = io.BytesIO()
    pq.write_table(
        table, out, compression="zstd", use_dictionary=False, column_encoding="BYTE_STREAM_SPLIT"
    )
    return out.getvalue()


def from_parquet(content: bytes) -> Capture:
    """Read what ``to_parquet`` wrote. Raises CaptureError when it is something else."""
    return _read(io.BytesIO(content), f"{len(content)} bytes")


def read_parquet(path: Path, source: str | None = None) -> Capture:
    """Read a Parquet capture: ours, or any table with a time column beside its channels. Raises
    CaptureError.
    """
    with path.open("rb") as file:
        return _read(file, source or path.name)


def _read(file: object, name: str) -> Capture:
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            whole = pq.ParquetFile(file)
            if whole.metadata.num_columns > MOST_CHANNELS + 1:
                raise CaptureError(
                    "The capture has too many columns.",
                    read=str(whole.metadata.num_columns),
                    expected=f"at most {MOST_CHANNELS + 1}",
                )
            names = whole.schema_arrow.names
            if len(set(names)) < len(names):
                raise CaptureError(
                    "Two columns have one name.",
                    read=", ".join(names),
                    expected="a name of its own for each",
                )
            table = whole.read()
            columns = {n: _numbers(table.column(n), n) for n in table.column_names}
    except MemoryError:
        raise
    except (pa.ArrowException, OSError, ValueError) as error:
        raise CaptureError(
            "The Parquet file is damaged.",
            read=f"{name}: {error}"[:160],
            expected="a Parquet capture",
        ) from error
    metadata = table.schema.metadata or {}
    if b"rate_hz" not in metadata:
        return capture_from_columns(columns, name)
    try:
        rate = float(metadata[b"rate_hz"])
    except ValueError as error:
        raise CaptureError(
            "The sample rate is no number.", read=repr(metadata[b"rate_hz"][:40]), expected="hertz"
        ) from error
    source = metadata.get(b"source", name.encode()).decode("utf-8", "replace")
    return Capture(rate, {n: x.astype(np.float32, copy=False) for n, x in columns.items()}, source)


def _numbers(column: pa.ChunkedArray, name: str) -> np.ndarray:
    if not (pa.types.is_floating(column.type) or pa.types.is_integer(column.type)):
        raise CaptureError(
            f"Column {name} holds no numbers.", read=str(column.type), expected="numbers"
        )
    return np.asarray(column.to_numpy())
