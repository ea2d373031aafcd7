"""Every format's sample file is read to the same engine; what each format promises holds."""

from pathlib import Path

import numpy as np
import pyarrow as pa
import pyarrow.parquet as pq
import pytest
import soundfile
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.data.make import sample
from tests.support.cluster import ROOT

from flaneur.cli import main
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import CaptureError
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import correlate
from flaneur.core.signals.identify import propose_channels, renamed
from flaneur.formats.captures import read_capture, read_wav, write_csv, write_wav
from flaneur.formats.photos import read_photo

DATA = ROOT / "tests" / "data"
FILES = [
    "capture.csv",
    "comma.csv",
    "capture.csv.gz",
    "units.tsv",
    "capture.parquet",
    "capture.mf4",
]
FILES += ["float.wav", "pcm16.wav", "pcm24.wav", "pcm32.wav"]


@pytest.fixture(scope="module")
def truth() -> Capture:
    return sample()


@pytest.mark.parametrize("name", FILES)
def test_the_same_engine_stands_in_every_file(book: EngineBook, truth: Capture, name: str) -> None:
    found = read_capture(DATA / name)
    assert (found.rate_hz, found.samples) == (pytest.approx(truth.rate_hz), truth.samples)
    mapping = propose_channels(found, book)
    assert mapping is not None
    named = renamed(found, mapping)
    scale = 5.0 if name.startswith("pcm") else 1.0
    for channel, x in truth.channels.items():
        assert np.max(np.abs(named.channels[channel] * scale - x)) < 2e-3
    late = {c.cam: c.deviation_deg for c in correlate(named, book).cams}
    assert late["cam_b_in"] == pytest.approx(20, abs=0.4)


def test_a_wav_remembers_its_channels_names(truth: Capture, tmp_path: Path) -> None:
    write_wav(truth, tmp_path / "a.wav")
    back = read_wav(tmp_path / "a.wav")
    assert list(back.channels) == list(truth.channels)
    assert all(np.array_equal(back.channels[n], truth.channels[n]) for n in truth.channels)


def test_a_wav_of_too_many_channels_is_refused(tmp_path: Path) -> None:
    soundfile.write(str(tmp_path / "many.wav"), np.zeros((40, 20)), 8000)
    with pytest.raises(CaptureError, match="too many channels"):
        read_capture(tmp_path / "many.wav")


@pytest.mark.parametrize(
    ("text", "rate", "first"),
    [
        ("# rate_hz: 2000\ncrank;cam_a_in\n0,5;1,5\n0,6;1,6\n0,7;1,7\n", 2000.0, 0.5),
        ("# a remark\n\n# another\ntime (us),crank\n0,0.5\n500,0.6\n1000,0.7\n", 2000.0, 0.5),
        ("time\tcrank\ns\tmV\n0\t500\n0.0005\t600\n0.001\t700\n", 2000.0, 0.5),
        ("Time [ms],Crank Sensor (mV)\n0,500\n0.5,600\n1,700\n", 2000.0, 0.5),
        ('"time (s)","crank (A)"\n0,0.5\n0.0005,0.6\n0.001,0.7\n', 2000.0, 0.5),
    ],
)
def test_headers_as_recorders_write_them(
    tmp_path: Path, text: str, rate: float, first: float
) -> None:
    (tmp_path / "a.csv").write_text(text, encoding="utf-8")
    found = read_capture(tmp_path / "a.csv")
    assert found.rate_hz == pytest.approx(rate)
    assert next(iter(found.channels.values()))[0] == pytest.approx(first)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("# only remarks\n", "names no columns"),
        ("time,crank,crank\n0,1,2\n1,2,3\n", "one name"),
        ("time\n0\n1\n", "does not name columns"),
        ("time,\n0,1\n", "cannot be read"),
    ],
)
def test_headers_that_cannot_be_are_refused(tmp_path: Path, text: str, words: str) -> None:
    (tmp_path / "a.csv").write_text(text, encoding="utf-8")
    with pytest.raises(CaptureError) as error:
        read_capture(tmp_path / "a.csv")
    assert words in error.value.message


def test_a_table_of_another_program_is_read_by_its_time(truth: Capture, tmp_path: Path) -> None:
    time = np.arange(truth.samples) / truth.rate_hz * 1000
    columns = {
        "time (ms)": time,
        **{f"{n} (mV)": x.astype(float) * 1000 for n, x in truth.channels.items()},
    }
    pq.write_table(pa.table(columns), tmp_path / "a.parquet")
    found = read_capture(tmp_path / "a.parquet")
    assert found.rate_hz == pytest.approx(truth.rate_hz)
    assert found.channels["crank"] == pytest.approx(truth.channels["crank"], abs=1e-4)
    pq.write_table(pa.table({"time": ["a", "b"], "crank": [1.0, 2.0]}), tmp_path / "b.parquet")
    with pytest.raises(CaptureError, match="holds no numbers"):
        read_capture(tmp_path / "b.parquet")


@settings(max_examples=20, deadline=None)
@given(
    st.lists(st.floats(-9, 9, width=32), min_size=20, max_size=60),
    st.sampled_from([(",", "."), (";", ","), ("\t", ".")]),
    st.sampled_from([250_000.0, 44_100.0, 12_345.0]),
)
def test_any_samples_come_back_from_csv(
    tmp_path_factory: pytest.TempPathFactory,
    values: list[float],
    style: tuple[str, str],
    rate: float,
) -> None:
    path = tmp_path_factory.mktemp("csv") / "a.csv"
    write_csv(Capture(rate, {"crank": np.array(values, np.float32)}), path, *style)
    back = read_capture(path)
    assert back.rate_hz == pytest.approx(rate, rel=1e-4)
    assert back.channels["crank"] == pytest.approx(np.array(values), abs=2e-5)


def test_the_command_line_reads_every_format_too(capsys: pytest.CaptureFixture[str]) -> None:
    assert (
        main(
            [
                "correlate",
                str(DATA / "float.wav"),
                "--engine",
                str(ROOT / "engines" / "ostrey-tansy.yaml"),
            ]
        )
        == 0
    )
    assert "Intake cam, bank B" in capsys.readouterr().out


def test_a_photograph_keeps_nothing_but_its_picture() -> None:
    import io

    from PIL import Image

    out, exif = io.BytesIO(), Image.Exif()
    exif[0x0112], exif[0x010F] = 6, "somebody's camera"
    Image.new("RGB", (400, 200), (200, 10, 10)).save(out, "JPEG", exif=exif)
    kept = read_photo(out.getvalue(), "p.jpg")
    assert (kept.width, kept.height) == (200, 400), "turned upright"
    assert b"camera" not in kept.webp
