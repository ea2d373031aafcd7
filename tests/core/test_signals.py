"""Captures with known truth are read back; captures that cannot be read say why."""

from dataclasses import replace

import numpy as np
import pytest

from flaneur.core.book.schema import EngineBook, GapWheel
from flaneur.core.errors import CaptureError
from flaneur.core.faults.model import Faults
from flaneur.core.picture.fold import fold
from flaneur.core.signals.camreading import EdgeReading
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import Correlation, correlate
from flaneur.core.signals.crank import decode_crank
from flaneur.core.signals.edges import find_edges
from flaneur.core.signals.robust import huber_mean
from flaneur.core.signals.wording import edges_words
from flaneur.simulation.motion import Conditions, Motion, motion_for
from flaneur.simulation.synthesis import synthesise, true_deviation_deg

WORN = Faults(
    elongation_pct={"chain_a": 0.7},
    jumped_teeth={"chain_b/cam_b_in": 1},
    tone_wheel_offset_deg={"wheel_b_ex": -0.4},
)
SHORT = Conditions(seconds=3.0)


def capture_of(
    book: EngineBook, faults: Faults = WORN, conditions: Conditions = SHORT, seed: int = 5
) -> Capture:
    return synthesise(book, faults, conditions, np.random.default_rng(seed))


@pytest.fixture(scope="module")
def clean(book: EngineBook) -> Capture:
    return capture_of(book)


@pytest.fixture(scope="module")
def read(book: EngineBook, clean: Capture) -> Correlation:
    return correlate(clean, book)


def test_reads_every_cam_within_its_standard_error(book: EngineBook, read: Correlation) -> None:
    truth = true_deviation_deg(book, WORN)
    assert [c.cam for c in read.cams] == book.cams
    for cam in read.cams:
        assert abs(cam.deviation_deg - truth[cam.cam]) < 4 * cam.stderr_deg + 0.005
        assert cam.cycles >= 16
    assert read.quality == ()
    assert read.rpm == pytest.approx(720, rel=0.02)


def test_scatter_is_the_engines_own(read: Correlation) -> None:
    for cam in read.cams:
        assert cam.scatter_deg == pytest.approx(SHORT.cycle_scatter_deg, rel=0.6)


def test_a_whole_tooth_and_stretch_look_different(book: EngineBook, read: Correlation) -> None:
    by_cam = {c.cam: c.deviation_deg for c in read.cams}
    assert by_cam["cam_b_in"] == pytest.approx(20.0, abs=0.2)
    assert 4 < by_cam["cam_a_ex"] < by_cam["cam_a_in"] < 8


def test_a_slipped_crank_wheel_moves_all_cams_the_other_way(book: EngineBook) -> None:
    found = correlate(capture_of(book, Faults(tone_wheel_offset_deg={"wheel_crank": 3.0})), book)
    assert [c.deviation_deg for c in found.cams] == pytest.approx([-3.0] * 4, abs=0.1)


def test_a_commanded_phaser_moves_its_cam_early(book: EngineBook) -> None:
    found = correlate(
        capture_of(book, Faults(), replace(SHORT, phaser_command_deg={"phaser_a": 24.0})), book
    )
    assert {c.cam: round(c.deviation_deg) for c in found.cams} == {
        "cam_a_in": -24,
        "cam_a_ex": 0,
        "cam_b_in": 0,
        "cam_b_ex": 0,
    }


@pytest.mark.parametrize("rpm", [180.0, 720.0, 2500.0])
def test_reads_from_cranking_to_fast(book: EngineBook, rpm: float) -> None:
    conditions = Conditions(
        seconds=4.0,
        rate_hz=100_000,
        rpm=rpm,
        firing_ripple_deg=1.2,
        half_order_deg=0.6,
        wander=0.04,
    )
    found = correlate(capture_of(book, WORN, conditions), book)
    truth = true_deviation_deg(book, WORN)
    for cam in found.cams:
        assert cam.deviation_deg == pytest.approx(truth[cam.cam], abs=0.2)


def test_noise_widens_the_error_and_is_said(book: EngineBook) -> None:
    loud = correlate(capture_of(book, WORN, replace(SHORT, noise_v=0.42)), book)
    assert any("noisy" in words for words in loud.quality)
    truth = true_deviation_deg(book, WORN)
    for cam in loud.cams:
        assert abs(cam.deviation_deg - truth[cam.cam]) < 4 * cam.stderr_deg + 0.05


def test_an_edge_is_timed_to_a_small_part_of_a_sample() -> None:
    rate, sigma = 50_000.0, 17.6e-6
    edges = np.arange(0.001, 0.4, 0.00137) + np.random.default_rng(1).uniform(0, 2e-5, 292)
    t = np.arange(20_100) / rate
    from scipy.special import ndtr

    x = np.zeros(t.size)
    for i, edge in enumerate(edges):
        x += (1 if i % 2 == 0 else -1) * ndtr((t - edge) / sigma)
    found = find_edges((0.3 + 4.4 * x).astype(np.float32), rate, "crank")
    inner = slice(3, -3)
    assert len(found.times_s) == len(edges)
    assert np.max(np.abs(found.times_s - edges)[inner]) < 2e-7
    assert found.rising[:4].tolist() == [True, False, True, False]


def test_chatter_is_merged(book: EngineBook, clean: Capture) -> None:
    x = clean.channels["cam_a_in"].copy()
    edge = int(np.flatnonzero((x[1:] > 2.5) != (x[:-1] > 2.5))[4])
    x[edge + 3 : edge + 6] = 5.0 - x[edge + 3 : edge + 6]
    found = find_edges(x, clean.rate_hz, "cam_a_in")
    assert found.chatter >= 2
    assert len(found.times_s) == len(
        find_edges(clean.channels["cam_a_in"], clean.rate_hz, "cam_a_in").times_s
    )


def test_true_motion_is_found_between_teeth(book: EngineBook) -> None:
    """θ between teeth follows the ripple: against the analytic motion, not a second decoder."""
    motion = motion_for(book, replace(SHORT, firing_ripple_deg=1.0), np.random.default_rng(2))
    wheel = book.crank_wheel
    theta = (np.arange(0, 30)[:, None] * 360 + wheel.first_tooth_deg + 6 * np.arange(58)).ravel()
    theta = theta[theta > motion.start_deg]
    crank = decode_crank(motion.times(theta), wheel)
    between = np.linspace(*crank.times_s[[100, -100]], 4001)
    offset = crank.at(between) - motion.angle(between)
    left = offset - 360 * np.round(offset[0] / 360)
    # Six-point interpolation; a firing ripple of 1° leaves a few thousandths across the wide gap.
    assert np.max(np.abs(left)) < 0.02


def test_motion_inverts_itself() -> None:
    motion = Motion(
        np.array([0.0, 1.0, 3.0]),
        np.array([720.0, 900.0, 650.0]),
        123.0,
        ((0.5, 3.0, 0.3), (0.2, 0.5, 1.0)),
    )
    theta = np.linspace(200, 9000, 500)
    assert motion.angle(motion.times(theta)) == pytest.approx(theta, abs=1e-6)


def test_a_damaged_turn_is_left_out_and_said(book: EngineBook, clean: Capture) -> None:
    channels = {k: v.copy() for k, v in clean.channels.items()}
    third = clean.samples // 3
    channels["crank"][third : third + 160] = 0.3
    found = correlate(Capture(clean.rate_hz, channels), book)
    assert any(words.startswith("Crank teeth:") for words in found.quality)
    truth = true_deviation_deg(book, WORN)
    for cam in found.cams:
        assert cam.deviation_deg == pytest.approx(truth[cam.cam], abs=0.3)


def refused(capture: Capture, book: EngineBook) -> CaptureError:
    with pytest.raises(CaptureError) as error:
        correlate(capture, book)
    assert error.value.message
    return error.value


def test_a_missing_channel_is_named(book: EngineBook, clean: Capture) -> None:
    rest = {k: v for k, v in clean.channels.items() if k != "cam_b_ex"}
    error = refused(Capture(clean.rate_hz, rest), book)
    assert "cam_b_ex" in error.message
    assert "cam_a_in" in error.read


def test_swapped_channels_are_named(book: EngineBook, clean: Capture) -> None:
    swapped = dict(clean.channels)
    swapped["cam_a_in"], swapped["cam_b_ex"] = swapped["cam_b_ex"], swapped["cam_a_in"]
    assert (
        "cam_a_in and cam_b_ex look swapped"
        in refused(Capture(clean.rate_hz, swapped), book).advice
    )


def test_crank_on_a_cam_channel_has_no_gap(book: EngineBook, clean: Capture) -> None:
    error = refused(
        Capture(clean.rate_hz, {**clean.channels, "crank": clean.channels["cam_a_in"]}), book
    )
    assert "crank" in str(error).lower()


def test_a_capture_of_another_engine_is_recognised(book: EngineBook, clean: Capture) -> None:
    other = book.model_copy(
        update={
            "tone_wheels": {**book.tone_wheels, "wheel_crank": _wheel(book, teeth=36, missing=1)}
        }
    )
    error = refused(clean, other)
    assert "another engine" in error.message
    assert "58 crank teeth" in error.read


def test_cams_of_another_engine_are_recognised(book: EngineBook, clean: Capture) -> None:
    wheels = dict(book.tone_wheels)
    for i, (key, wheel) in enumerate(book.tone_wheels.items()):
        if wheel.kind == "vanes":
            wheels[key] = wheel.model_copy(
                update={
                    "vanes_deg": [(5.0 + 31 * i, 60.0 + 31 * i), (300.0 + 17 * i, 470.0 - 13 * i)]
                }
            )
    assert (
        "another engine" in refused(clean, book.model_copy(update={"tone_wheels": wheels})).message
    )


def _wheel(book: EngineBook, **change: int) -> GapWheel:
    return book.crank_wheel.model_copy(update=change)


def test_even_teeth_have_no_gap(book: EngineBook) -> None:
    with pytest.raises(CaptureError, match="No gap"):
        decode_crank(np.arange(400) * 1e-3, book.crank_wheel)


def test_half_a_turn_is_too_little(book: EngineBook, clean: Capture) -> None:
    few = int(clean.rate_hz * 0.042)
    error = refused(Capture(clean.rate_hz, {k: v[:few] for k, v in clean.channels.items()}), book)
    assert "not turn far enough" in error.message
    assert "Record longer" in error.advice


def test_nan_is_refused_with_its_place(book: EngineBook, clean: Capture) -> None:
    x = clean.channels["cam_a_ex"].copy()
    x[1234] = np.nan
    error = refused(Capture(clean.rate_hz, {**clean.channels, "cam_a_ex": x}), book)
    assert "sample 1235" in error.read


@pytest.mark.parametrize("value", [0.0, 2.4])
def test_a_dead_channel_is_refused(book: EngineBook, clean: Capture, value: float) -> None:
    dead = np.full(clean.samples, value, np.float32)
    assert (
        "does not move"
        in refused(Capture(clean.rate_hz, {**clean.channels, "crank": dead}), book).message
    )


def test_pure_noise_is_refused(book: EngineBook, clean: Capture) -> None:
    noise = np.random.default_rng(0).standard_normal(clean.samples).astype(np.float32)
    assert (
        "noise" in refused(Capture(clean.rate_hz, {**clean.channels, "crank": noise}), book).message
    )


@pytest.mark.parametrize(
    ("rate", "lengths"), [(0.0, (5, 5)), (float("nan"), (5, 5)), (1000.0, (5, 6))]
)
def test_a_capture_that_makes_no_sense_is_refused_at_once(
    rate: float, lengths: tuple[int, int]
) -> None:
    with pytest.raises(CaptureError):
        Capture(
            rate, {"a": np.zeros(lengths[0], np.float32), "b": np.zeros(lengths[1], np.float32)}
        )


def test_huber_mean_shrugs_off_a_stray_cycle() -> None:
    values = np.random.default_rng(4).normal(3.0, 0.1, 60)
    mean, stderr, scatter = huber_mean(np.append(values, 40.0))
    assert mean == pytest.approx(3.0, abs=0.05)
    assert stderr < 0.03
    assert scatter == pytest.approx(0.1, rel=0.5)


def test_huber_mean_knows_its_error() -> None:
    rng = np.random.default_rng(8)
    draws = [huber_mean(rng.normal(0, 1, 40)) for _ in range(400)]
    assert np.std([m for m, _, _ in draws]) == pytest.approx(
        np.mean([e for _, e, _ in draws]), rel=0.12
    )


def test_folded_traces_show_the_edge_where_it_came(
    book: EngineBook, clean: Capture, read: Correlation
) -> None:
    traces = {t.channel: t for t in fold(clean, read, book)}
    trace = traces["cam_a_in"]
    assert len(trace.low_v) == len(trace.high_v) == 720
    rise = trace.expected_deg[0] + (trace.deviation_deg or 0)
    assert trace.high_v[int(rise) - 4] < 1.0
    assert trace.low_v[int(rise) + 5] > 4.0
    assert len(traces["crank"].expected_deg) == 2 * 58
    assert trace.expected_deg == [e for vane in book.cam_wheel("cam_a_in").vanes_deg for e in vane]


def test_edges_that_agree_are_the_cam_and_one_apart_is_the_wheel() -> None:
    def edge(at: float, off: float | None, is_off: bool = False) -> EdgeReading:
        return EdgeReading(at, rising=True, deviation_deg=off, stderr_deg=0.01, is_off=is_off)

    sound = [edge(10, 0.05), edge(130, -0.08)]
    assert edges_words(sound).startswith("All 2 edges agree within 0.08°")
    assert "the rising edge at 250°. That is the wheel" in edges_words(
        [*sound, edge(250, 1.4, is_off=True)]
    )
    assert edges_words([*sound, edge(370, None, is_off=True)]).startswith(
        "Never came: the rising edge at 370°."
    )
