"""Capture files as other programs write them: read where they can be, else refused and why."""

import gzip
import io
from pathlib import Path

import numpy as np
import pyarrow as pa
import pyarrow.parquet as pq
import pytest

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import CaptureError
from flaneur.core.faults.model import Faults
from flaneur.core.signals.correlation import correlate
from flaneur.core.signals.identify import in_time
from flaneur.formats.captures import read_capture
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise

RATE, ROWS = 50_000.0, 400


def rows(separator: str = ",", decimal: str = ".", scale: float = 1.0, digits: int = 9) -> str:
    """A column of time and two of volts."""
    lines = []
    for i in range(ROWS):
        cells = [f"{i / RATE * scale:.{digits}f}", f"{0.2 + i % 7:.3f}", f"{4.7 - i % 5:.3f}"]
        lines.append(separator.join(c.replace(".", decimal) for c in cells))
    return "\n".join(lines) + "\n"


TITLED = "Recorded at the quay\nRun 4, warm\n\n"
ODD = {
    "utf-16": ("time (s),crank,cam\n" + rows()).encode("utf-16"),
    "utf-16 without a mark": ("time (s),crank,cam\n" + rows()).encode("utf-16-le"),
    "sep": ("sep=;\ntime (s);crank;cam\n" + rows(";")).encode(),
    "title lines": (TITLED + "time (s),crank,cam\n" + rows()).encode(),
    "trailing notes": (
        "time (s),crank,cam\n" + rows() + "\nend of run, all warm\nby ivo\n"
    ).encode(),
    "latin-1 microseconds": ("Zeit (µs);crank;cam\n" + rows(";", ",", 1e6)).encode("cp1252"),
    "units below": ("time,crank,cam\n(ms),(V),(V)\n" + rows(scale=1e3)).encode(),
    "rounded": ("time (s),crank,cam\n" + rows(digits=3)).encode(),
    "packed": gzip.compress(("time (s),crank,cam\n" + rows()).encode()),
}


@pytest.mark.parametrize("kind", ODD)
def test_what_other_programs_write_is_read(tmp_path: Path, kind: str) -> None:
    path = tmp_path / "capture"
    path.write_bytes(ODD[kind])
    found = read_capture(path)
    assert found.rate_hz == pytest.approx(RATE, rel=0.02 if kind == "rounded" else 1e-6)
    assert set(found.channels) == {"crank", "cam"}
    assert found.samples == ROWS
    assert found.channels["crank"][:3] == pytest.approx([0.2, 1.2, 2.2], abs=1e-6)
    said = {"trailing notes": "2 lines after", "rounded": "steps of 0.001 s"}
    assert said.get(kind, "") in " ".join(found.notes)


def nested(depth: int) -> bytes:
    content = ("time (s),crank,cam\n" + rows()).encode()
    for _ in range(depth):
        content = gzip.compress(content, 1)
    return content


def parquet(rate: str, twice: bool = False) -> bytes:
    x = pa.array(np.zeros(100), pa.float32())
    table = pa.Table.from_arrays([x, x], ["crank", "crank" if twice else "cam"])
    out = io.BytesIO()
    pq.write_table(table.replace_schema_metadata({"rate_hz": rate}), out)
    return out.getvalue()


REFUSED = {
    "nested": (nested(40), "packed into itself"),
    "rate of dots": (b"# rate_hz: 1.2.3\ncrank,cam\n1,2\n3,4\n", "sample rate is no number"),
    "rate of nearly nought": (parquet("1e-300"), "sample rate makes no sense"),
    "rate of nought": (parquet("nan"), "sample rate makes no sense"),
    "doubled names": (parquet("50000", twice=True), "Two columns have one name"),
    "no names": (rows().encode(), "names no columns"),
    "a bad row": (b"time (s),crank\n0,1\n0.1,x\n0.2,1\n0.3,2\n", "row cannot be read"),
    "a bad last row": (b"time (s),crank,cam\n0,1,1\n0.1,1,1\n0.2,x,1\n", "row cannot be read"),
}


@pytest.mark.parametrize("kind", REFUSED)
def test_what_cannot_be_read_says_why(tmp_path: Path, kind: str) -> None:
    content, words = REFUSED[kind]
    path = tmp_path / "capture"
    path.write_bytes(content)
    with pytest.raises(CaptureError) as error:
        read_capture(path)
    assert words in error.value.message
    assert error.value.read


@pytest.mark.parametrize(("scale", "unit"), [(1.0, ""), (1e3, "milliseconds"), (1e6, "micro")])
def test_time_without_a_unit_is_taken_as_cranks_turn(
    book: EngineBook, tmp_path: Path, scale: float, unit: str
) -> None:
    made = synthesise(book, Faults(), Conditions(seconds=1.5), np.random.default_rng(1))
    table = np.column_stack(
        [np.arange(made.samples) / made.rate_hz * scale, *made.channels.values()]
    )
    path = tmp_path / "capture.csv"
    np.savetxt(
        path,
        table,
        delimiter=",",
        header=",".join(["time", *made.channels]),
        comments="",
        fmt="%.9g",
    )
    read = read_capture(path)
    assert read.unit_open
    found = in_time(read, book)
    assert found.rate_hz == pytest.approx(made.rate_hz, rel=1e-4)
    assert unit in " ".join(found.notes)
    assert bool(found.notes) == bool(unit)
    assert correlate(found, book).rpm == pytest.approx(720, rel=0.03)
