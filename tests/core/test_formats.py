"""Captures in and out, and the refusal of what is none."""

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import CaptureError
from flaneur.core.faults.model import Faults
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import correlate
from flaneur.formats.captures import from_parquet, read_csv, to_parquet, write_csv
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise


@pytest.fixture(scope="module")
def capture(book: EngineBook) -> Capture:
    return synthesise(
        book,
        Faults(elongation_pct={"chain_b": 0.6}),
        Conditions(seconds=2.0),
        np.random.default_rng(9),
    )


@pytest.mark.parametrize(
    ("separator", "decimal"), [(",", "."), (";", ","), ("\t", "."), ("\t", ","), ("|", ".")]
)
def test_csv_comes_back_whatever_the_separator(
    tmp_path: Path, capture: Capture, separator: str, decimal: str
) -> None:
    path = tmp_path / "capture.csv"
    write_csv(capture, path, separator, decimal)
    back = read_csv(path)
    assert back.rate_hz == pytest.approx(capture.rate_hz, rel=1e-6)
    assert set(back.channels) == set(capture.channels)
    for name, values in capture.channels.items():
        np.testing.assert_allclose(back.channels[name], values, rtol=0, atol=2e-5)


def test_columns_may_stand_in_any_order_with_units(
    tmp_path: Path, capture: Capture, book: EngineBook
) -> None:
    time_ms = 1000 * np.arange(capture.samples) / capture.rate_hz
    names = ["cam_b_ex", "cam_a_in", "crank", "cam_b_in", "cam_a_ex"]
    rows = np.column_stack(
        [capture.channels["cam_b_ex"], time_ms, *(capture.channels[n] for n in names[1:])]
    )
    path = tmp_path / "shuffled.csv"
    header = "CAM_B_EX (V);time [ms];Cam A in;Crank (V);cam b in;cam_a_ex"
    np.savetxt(path, rows, delimiter=";", fmt="%.6f", header=header, comments="")
    found = correlate(read_csv(path), book)
    direct = correlate(capture, book)
    for a, b in zip(found.cams, direct.cams, strict=True):
        assert a.deviation_deg == pytest.approx(b.deviation_deg, abs=0.01)


def test_parquet_comes_back_exactly(capture: Capture) -> None:
    back = from_parquet(to_parquet(capture))
    assert back.rate_hz == capture.rate_hz
    assert back.source == capture.source
    assert all(np.array_equal(back.channels[n], x) for n, x in capture.channels.items())


def test_parquet_rubbish_is_refused() -> None:
    with pytest.raises(CaptureError, match="Parquet file is damaged"):
        from_parquet(b"PAR1 nothing PAR1")


def refused(tmp_path: Path, content: bytes) -> CaptureError:
    path = tmp_path / "bad.csv"
    path.write_bytes(content)
    with pytest.raises(CaptureError) as error:
        read_csv(path)
    return error.value


@pytest.mark.parametrize(
    ("content", "message", "read"),
    [
        (b"", "The file is empty.", "0 bytes"),
        (b"  \n \n", "The file is empty.", "bytes"),
        (b"\x00\x01\x02PK\x03", "not a text file", "binary"),
        (b"\xff\xfd\xfa\x01\x02\x03\x04", "not a text file", "0xff"),
        (b"hello\nworld\n", "does not name columns", "hello"),
        (b"crank,cam_a_in\n1,2\n3,4\n", "no time column", "crank, cam_a_in"),
        (b"time (fortnights),crank\n1,2\n3,4\n", "time unit is not known", "fortnights"),
        (b"time,crank\n", "no samples", "0 rows"),
        (b"time,crank\n0,1\n1,x\n2,3\n", "cannot be read", "x"),
        (b"time,crank\n0,1\n1\n2,3\n", "cannot be read", ""),
        (b"time,crank\n0,1\n1,nan\n2,3\n", "not a number", "row 3"),
        (b"time,crank\n0,1\n1,inf\n2,3\n", "not a number", "row 3"),
        (b"time,crank\n0,1\n1,2\n9,3\n10,4\n11,5\n", "not evenly spaced", "8 s"),
        (b"time,crank\n3,1\n2,2\n1,3\n", "does not run forwards", "-1"),
        (b"time," + b",".join(b"c%d" % i for i in range(40)) + b"\n", "too many columns", "41"),
    ],
)
def test_bad_csv_is_refused_with_what_was_read(
    tmp_path: Path, content: bytes, message: str, read: str
) -> None:
    error = refused(tmp_path, content)
    assert message in error.message
    assert read in error.read


@settings(max_examples=60, deadline=None)
@given(st.binary(max_size=400))
def test_no_bytes_break_the_reader(
    tmp_path_factory: pytest.TempPathFactory, content: bytes
) -> None:
    path = tmp_path_factory.mktemp("fuzz") / "any.csv"
    path.write_bytes(content)
    try:
        read_csv(path)
    except CaptureError as error:
        assert error.message
