"""Every kind of wheel, sensor and run is read back to its known truth; what is wrong with a capture
is said.
"""

from dataclasses import replace

import numpy as np
import pytest
from bench.readings import silent_error
from bench.variants import COURSES, DAMAGES, crank_wheels, reluctors, with_crank

from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import BookError, CaptureError
from flaneur.core.faults.model import Faults
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import Correlation, correlate
from flaneur.core.signals.identify import better_books, propose_channels, renamed
from flaneur.core.signals.quality import quality_verdict, sensor_name
from flaneur.core.signals.timeline import Timeline
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise, true_deviation_deg

WORN = Faults(elongation_pct={"chain_a": 0.7}, jumped_teeth={"chain_b/cam_b_in": 1})
SHORT = Conditions(seconds=3.0)


def capture_of(
    book: EngineBook, conditions: Conditions = SHORT, faults: Faults = WORN, seed: int = 6
) -> Capture:
    return synthesise(book, faults, conditions, np.random.default_rng(seed))


def off_by(found: Correlation, book: EngineBook, faults: Faults = WORN) -> float:
    truth = true_deviation_deg(book, faults)
    return max(abs(c.deviation_deg - truth[c.cam]) for c in found.cams)


@pytest.fixture(scope="module")
def vr(book: EngineBook) -> EngineBook:
    return reluctors(book)


@pytest.mark.parametrize("name", ["60-2", "36-1", "48-2-2", "listed"])
@pytest.mark.parametrize("sensor", ["hall", "vr"])
def test_every_crank_wheel_is_read(
    book: EngineBook, vr: EngineBook, name: str, sensor: str
) -> None:
    base = book if sensor == "hall" else vr
    wheel = crank_wheels(book)[name].model_copy(
        update={"sensor": sensor, "pulse_deg": 1.2, "volts_per_krpm": 1.5}
    )
    engine = with_crank(base, wheel)
    found = correlate(capture_of(engine), engine)
    assert off_by(found, engine) < 0.15
    assert found.rpm == pytest.approx(720, rel=0.02)
    assert found.quality == ()


@pytest.mark.parametrize("course", sorted(COURSES))
def test_cranking_and_sweeps_are_read_by_reluctors_too(vr: EngineBook, course: str) -> None:
    found = correlate(capture_of(vr, replace(COURSES[course], cycle_scatter_deg=0.12)), vr)
    assert off_by(found, vr) < 0.12


@pytest.mark.parametrize("rpm", [60.0, 6500.0])
def test_the_slowest_and_the_fastest_engine(book: EngineBook, rpm: float) -> None:
    conditions = Conditions(
        seconds=20 if rpm < 100 else 3, rate_hz=20_000 if rpm < 100 else 250_000, rpm=rpm
    )
    found = correlate(capture_of(book, conditions), book)
    assert off_by(found, book) < 0.25
    assert found.rpm == pytest.approx(rpm, rel=0.03)


@pytest.mark.parametrize("channel", ["crank", "cam_a_in", "cam_b_ex"])
@pytest.mark.parametrize("sensor", ["hall", "vr"])
def test_either_polarity_is_found(
    book: EngineBook, vr: EngineBook, channel: str, sensor: str
) -> None:
    engine = book if sensor == "hall" else vr
    found = correlate(capture_of(engine, replace(SHORT, inverted=frozenset({channel}))), engine)
    assert off_by(found, engine) < 0.15
    assert f"{sensor_name(engine, channel)}: wired the other way round" in str(found.notes)


@pytest.mark.parametrize("sensor", ["hall", "vr"])
def test_offset_and_drift_are_followed(book: EngineBook, vr: EngineBook, sensor: str) -> None:
    engine = book if sensor == "hall" else vr
    shift = dict.fromkeys(("crank", "cam_a_in", "cam_b_in"), 1.0)
    found = correlate(capture_of(engine, replace(SHORT, offset_v=shift, drift_v=shift)), engine)
    assert off_by(found, engine) < 0.15


def test_tooth_errors_are_the_engines_fingerprint(book: EngineBook) -> None:
    errors = np.zeros(58)
    errors[[7, 30]] = [0.25, -0.2]
    found = correlate(
        capture_of(book, replace(SHORT, seconds=8.0, crank_tooth_deg=tuple(errors))), book
    )
    assert found.fingerprint is not None
    assert found.fingerprint.is_clear
    # Only what changes faster round the wheel than the crank can turn is told from its motion.
    assert found.fingerprint.error_deg[7] == pytest.approx(0.25, abs=0.12)
    assert found.fingerprint.error_deg[30] == pytest.approx(-0.2, abs=0.12)
    assert int(np.argmax(found.fingerprint.error_deg)) == 7
    even = correlate(capture_of(book, replace(SHORT, seconds=8.0)), book)
    assert even.fingerprint is not None
    assert not even.fingerprint.is_clear


def test_a_cold_start_settles(book: EngineBook) -> None:
    found = correlate(
        capture_of(book, replace(SHORT, seconds=8.0, settling_deg=3.0, settling_s=1.2)), book
    )
    for cam in found.cams:
        assert cam.settling is not None
        assert cam.settling.amplitude_deg == pytest.approx(3.0, abs=0.5)
        assert cam.settling.decay_s == pytest.approx(1.2, rel=0.25)
    assert off_by(found, book) < 0.2, "what it settles to is the reading"


def test_a_bent_vane_is_one_edge_and_not_the_cam(book: EngineBook) -> None:
    wheels = dict(book.tone_wheels)
    wheel = book.cam_wheel("cam_a_ex")
    bent = [
        wheel.vanes_deg[0],
        (wheel.vanes_deg[1][0], wheel.vanes_deg[1][1] + 4.0),
        *wheel.vanes_deg[2:],
    ]
    wheels["wheel_a_ex"] = wheel.model_copy(update={"vanes_deg": bent})
    found = correlate(capture_of(book.model_copy(update={"tone_wheels": wheels})), book)
    assert off_by(found, book) < 0.15
    assert any("stands apart" in words and "310" in words for words in found.quality)
    edges = next(c for c in found.cams if c.cam == "cam_a_ex").edges
    assert [e.expected_deg for e in edges if e.is_off] == [310.0]


def test_a_stretch_left_out_does_not_count(book: EngineBook) -> None:
    capture = capture_of(book)
    part = correlate(capture, book, [(1.0, 2.0)])
    assert 0.55 < part.cams[0].cycles / correlate(capture, book).cams[0].cycles < 0.75
    assert all(not 1.0 < t < 1.9 for t in part.cams[0].cycle_s)
    assert off_by(part, book) < 0.2


def test_a_phaser_that_moves_in_the_middle_is_named(book: EngineBook) -> None:
    still, moved = (
        capture_of(book),
        capture_of(book, replace(SHORT, phaser_command_deg={"phaser_a": 30.0})),
    )
    half = still.samples // 2
    joined = {
        n: x if n != "cam_a_in" else np.concatenate([x[:half], moved.channels[n][half:]])
        for n, x in still.channels.items()
    }
    with pytest.raises(
        CaptureError, match=r"Intake cam, bank A .* moves during the capture"
    ) as error:
        correlate(Capture(still.rate_hz, joined), book)
    assert "leave out the stretch" in error.value.advice


def test_a_hole_in_the_recording_is_bridged_by_the_cams(book: EngineBook) -> None:
    capture = capture_of(book)
    for cut in (4_130, 9_777):
        x = {n: np.delete(v, slice(60_000, 60_000 + cut)) for n, v in capture.channels.items()}
        found = correlate(Capture(capture.rate_hz, x), book)
        assert off_by(found, book) < 0.2
        assert found.quality != ()


@pytest.mark.parametrize("words", ["clipped", "too slow", "height changes", "interference"])
def test_what_spoils_a_capture_is_said(book: EngineBook, vr: EngineBook, words: str) -> None:
    capture = capture_of(vr if words == "clipped" else book)
    x, rate = {n: v.copy() for n, v in capture.channels.items()}, capture.rate_hz
    if words == "clipped":
        x["crank"] = np.clip(x["crank"], -0.6, 0.6)
    elif words == "too slow":
        x, rate = {n: np.ascontiguousarray(v[::12]) for n, v in x.items()}, rate / 12
    elif words == "height changes":
        x["cam_a_in"][70_000:] *= 0.5
    else:
        spot = np.arange(3_000, 140_000, 9_111)
        x["cam_b_in"][spot[:, None] + np.arange(40)] = (
            5.0 - x["cam_b_in"][spot[:, None] + np.arange(40)]
        )
    found = correlate(Capture(rate, x), vr if words == "clipped" else book)
    assert any(words in said for said in found.quality), found.quality
    assert "know" in quality_verdict(found.quality)


@pytest.mark.parametrize("kind", DAMAGES)
def test_damage_never_gives_a_confident_wrong_answer(
    book: EngineBook, vr: EngineBook, kind: str
) -> None:
    assert not silent_error(book, kind, np.random.default_rng(0))
    assert not silent_error(vr, kind, np.random.default_rng(51))


def test_channels_are_told_by_their_patterns(book: EngineBook) -> None:
    capture = capture_of(book)
    shuffled = {
        f"in {i}": capture.channels[n]
        for i, n in enumerate(["cam_b_ex", "cam_a_in", "crank", "cam_b_in", "cam_a_ex"])
    }
    found = propose_channels(Capture(capture.rate_hz, shuffled), book)
    assert found == {
        "in 0": "cam_b_ex",
        "in 1": "cam_a_in",
        "in 2": "crank",
        "in 3": "cam_b_in",
        "in 4": "cam_a_ex",
    }
    assert off_by(correlate(renamed(Capture(capture.rate_hz, shuffled), found), book), book) < 0.15
    assert (
        propose_channels(Capture(capture.rate_hz, {n: shuffled[n] for n in ("in 0", "in 2")}), book)
        is None
    )
    with pytest.raises(CaptureError, match="named for two"):
        renamed(capture, {"crank": "crank", "cam_a_in": "crank"})


def test_the_better_book_is_named(book: EngineBook) -> None:
    other = with_crank(book, crank_wheels(book)["36-1"]).model_copy(update={"name": "Other"})
    assert better_books(capture_of(other), [book, other]) == ["Other"]


@pytest.mark.parametrize(
    ("old", "new", "words"),
    [
        (
            "teeth: 60, missing: 2",
            "teeth: 60, missing: 2, more_gaps: [{after: 28, missing: 2}]",
            "repeats 2 times a turn",
        ),
        (
            "teeth: 60, missing: 2",
            "teeth: 60, missing: 2, more_gaps: [{after: 57, missing: 4}]",
            "lies beyond",
        ),
    ],
)
def test_a_crank_wheel_that_shows_no_beginning_is_refused(
    book_text: str, old: str, new: str, words: str
) -> None:
    with pytest.raises(BookError) as error:
        parse_book(book_text.replace(old, new))
    assert any(words in fault for fault in error.value.lines)


def test_the_timeline_expects_edges_where_the_book_has_them(book: EngineBook) -> None:
    times = np.linspace(0, 2, 4001)
    line = Timeline(times, 4320 * times)
    at, degs, rising = line.expected(book, "cam_a_in", 0.0, 1.0)
    assert line.theta(at) % 720 == pytest.approx(degs)
    assert len(at) == 48
    assert rising[:2] == [True, False]
    assert line.rpm(np.array([1.0]))[0] == pytest.approx(720)
