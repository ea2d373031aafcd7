"""A corpus of damaged files through every importer: refused in words or read, never a crash, never
a hang.
"""

import gzip
import io
import time
from pathlib import Path

import numpy as np
import pyarrow as pa
import pyarrow.parquet as pq
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image
from tests.support.cluster import ROOT

from flaneur.core.errors import CaptureError, ReadingError
from flaneur.formats.captures import Limits, read_capture, read_here
from flaneur.formats.photos import read_photo

SAMPLES = sorted(
    p
    for p in (ROOT / "tests" / "data").iterdir()
    if p.suffix in {".csv", ".gz", ".tsv", ".wav", ".parquet", ".mf4"}
)
EACH = 34
OF_MF4 = 6  # two seconds a copy
LONGEST_S = 10.0


def spoilt(content: bytes, seed: int) -> bytes:
    """One damaged copy: cut, flipped, overwritten, doubled, swapped, or with a hole; headers more
    often than bodies.
    """
    rng = np.random.default_rng(seed)
    data = bytearray(content)
    reach = min(len(data), 400) if seed % 2 else len(data)
    at = int(rng.integers(0, max(1, reach)))
    size = int(rng.integers(1, max(2, min(2000, len(data) - at))))
    match seed % 8:
        case 0:
            del data[at:]
        case 1 | 3:
            for _ in range(int(rng.integers(1, 12))):
                data[int(rng.integers(0, reach))] ^= 1 << int(rng.integers(0, 8))
        case 2:
            data[at : at + size] = rng.integers(0, 256, size, dtype=np.uint8).tobytes()
        case 4:
            data[at:at] = data[at : at + size]
        case 5:
            data[at : at + 8] = b"\xff" * 8
        case 6:
            del data[at : at + size]
        case 7:
            data[at : at + size] = bytes(size)
    return bytes(data)


def test_the_samples_are_there() -> None:
    assert len(SAMPLES) == 10
    assert {p.suffix for p in SAMPLES} == {".csv", ".gz", ".tsv", ".wav", ".parquet", ".mf4"}
    assert (len(SAMPLES) - 1) * EACH + OF_MF4 >= 300


@pytest.mark.parametrize("path", SAMPLES, ids=lambda p: p.name)
def test_damaged_files_are_read_or_refused_in_words(path: Path, tmp_path: Path) -> None:
    refused = 0
    for seed in range(OF_MF4 if path.suffix == ".mf4" else EACH):
        copy = tmp_path / f"{seed}{path.suffix}"
        copy.write_bytes(spoilt(path.read_bytes(), seed))
        start = time.monotonic()
        try:
            if path.suffix == ".mf4":
                found = read_capture(copy)
            else:
                found = read_here(copy, copy.name, 50_000_000)
            assert found.samples > 1
        except CaptureError as error:
            refused += 1
            assert error.message
            assert error.read
            assert error.expected
        assert time.monotonic() - start < LONGEST_S, f"seed {seed} hangs"
        copy.unlink()
    assert refused >= 4, "damage must be noticed"


@settings(max_examples=60, deadline=None)
@given(
    st.sampled_from([b"RIFF", b"PAR1", b"\x1f\x8b", b"time,crank\n", b"# rate_hz: 9\n"]),
    st.binary(max_size=600),
)
def test_no_bytes_behind_a_known_beginning_break_a_reader(
    tmp_path_factory: pytest.TempPathFactory, head: bytes, rest: bytes
) -> None:
    path = tmp_path_factory.mktemp("fuzz") / "any"
    path.write_bytes(head + rest)
    try:
        assert read_here(path, path.name).samples > 1
    except CaptureError as error:
        assert error.message


def test_damaged_photographs_are_read_or_refused() -> None:
    out = io.BytesIO()
    Image.new("RGB", (90, 60), (9, 120, 60)).save(out, "PNG")
    for seed in range(40):
        try:
            assert read_photo(spoilt(out.getvalue(), seed), "p.png").width > 0
        except ReadingError as error:
            assert error.message


def test_a_gzip_that_swells_is_stopped(tmp_path: Path) -> None:
    path = tmp_path / "bomb.csv.gz"
    path.write_bytes(gzip.compress(b"time,crank\n" + b"0,1\n" * 3_000_000))
    with pytest.raises(CaptureError, match="unpacks to too much"):
        read_capture(path, limits=Limits(unpacked_bytes=1_000_000))
    assert list(tmp_path.iterdir()) == [path]


def test_a_file_that_needs_too_much_is_stopped_and_the_limit_named(tmp_path: Path) -> None:
    path = tmp_path / "wide.parquet"
    table = pa.table(
        {"time": pa.array(np.zeros(4_000_000)), "crank": pa.array(np.zeros(4_000_000))}
    )
    pq.write_table(table, path)
    assert path.stat().st_size < 100_000, "small as it lies"
    with pytest.raises(CaptureError, match="too much memory") as refused:
        read_capture(path, limits=Limits(memory_bytes=60 << 20))
    assert "0.0586 GB" in refused.value.expected
    with pytest.raises(CaptureError, match="takes too long") as refused:
        read_capture(path, limits=Limits(base_s=0.05, bytes_per_s=1e12))
    assert "no end after 0 s" in refused.value.read


def test_reading_ends_when_it_is_cancelled(tmp_path: Path) -> None:
    path = tmp_path / "long.csv.gz"
    path.write_bytes(gzip.compress(b"time,crank\n" + b"0,1\n" * 3_000_000))

    def cancelled() -> None:
        raise KeyboardInterrupt

    with pytest.raises(KeyboardInterrupt):
        read_capture(path, meanwhile=cancelled)
