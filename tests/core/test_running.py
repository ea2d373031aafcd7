"""The running stand-in engine: frames join without a seam, speed and phasers obey, a cold start
rattles and settles.
"""

import numpy as np
import pytest

from flaneur.core.book.schema import EngineBook
from flaneur.core.faults.model import Faults
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.compare import compare_cams
from flaneur.core.signals.correlation import Correlation, correlate
from flaneur.core.signals.trend import half_order, settling, speed_slope
from flaneur.simulation.motion import Motion
from flaneur.simulation.running import RunningEngine

RATE = 50_000.0


def engine(book: EngineBook, faults: Faults | None = None, cold: bool = False) -> RunningEngine:
    return RunningEngine(book, faults or Faults(), RATE, cold, "unit")


def run(running: RunningEngine, seconds: float, frame_s: float = 0.2) -> Capture:
    frames = [running.frame(frame_s) for _ in range(round(seconds / frame_s))]
    return Capture(RATE, {n: np.concatenate([f[n] for f in frames]) for n in frames[0]})


def late(found: Correlation) -> dict[str, float]:
    return {c.cam: c.deviation_deg for c in found.cams}


@pytest.mark.parametrize("frame_s", [0.05, 0.2, 0.5])
def test_frames_of_any_length_join_without_a_seam(book: EngineBook, frame_s: float) -> None:
    found = correlate(
        run(engine(book, Faults(jumped_teeth={"chain_b/cam_b_in": 1})), 3.0, frame_s), book
    )
    assert found.quality == ()
    assert found.crank.bad_turns == 0
    assert late(found)["cam_b_in"] == pytest.approx(20, abs=0.2)


def test_it_revs_up_holds_and_falls(book: EngineBook) -> None:
    running = engine(book)
    idle = correlate(run(running, 2), book).rpm
    running.command(rpm=3000)
    run(running, 3)
    held = correlate(run(running, 2), book).rpm
    running.command(idle=True)
    run(running, 6)
    fallen = correlate(run(running, 2), book).rpm
    assert (idle, held, fallen) == (
        pytest.approx(720, rel=0.02),
        pytest.approx(3000, rel=0.02),
        pytest.approx(720, rel=0.03),
    )


def test_phasers_obey_within_their_travel_and_a_stuck_one_does_not(book: EngineBook) -> None:
    running = engine(book, Faults(phaser_offset_deg={"phaser_b": -9.0}))
    running.command(phasers={"phaser_a": 999.0, "phaser_b": 30.0, "phaser_z": 5.0})
    run(running, 2)
    found = late(correlate(run(running, 2), book))
    assert found["cam_a_in"] == pytest.approx(-50, abs=0.3)
    assert found["cam_b_in"] == pytest.approx(-9, abs=0.3)


def test_a_cold_engine_cranks_first_then_settles(book: EngineBook) -> None:
    cold = run(engine(book, Faults(cold_rattle_deg=4.0), cold=True), 8.0)
    found = correlate(cold, book)
    rpm = np.array(found.cams[0].cycle_rpm)
    assert rpm[0] < 350
    assert rpm[-1] > 750
    assert all(c.settling is not None and c.settling.amplitude_deg > 3 for c in found.cams)
    warm = correlate(run(engine(book, Faults(cold_rattle_deg=4.0)), 4.0), book)
    assert all(c.settling is None for c in warm.cams)


def test_speed_and_its_integral_agree() -> None:
    rng = np.random.default_rng(7)
    motion = Motion(np.arange(0, 3, 0.02), 700 + 400 * rng.random(150), 30.0, ((0.4, 3.0, 1.0),))
    t = np.linspace(0.05, 2.9, 400)
    slope = (motion.angle(t + 1e-6) - motion.angle(t - 1e-6)) / 2e-6
    assert slope == pytest.approx(motion.speed(t), rel=1e-4)


def test_trends_are_told_from_noise() -> None:
    rng = np.random.default_rng(3)
    t = np.arange(0, 12, 0.15)
    noise = rng.normal(0, 0.15, len(t))
    assert settling(t, 5 + noise) is None
    found = settling(t, 5 + 2.5 * np.exp(-t / 1.8) + noise)
    assert found is not None
    assert (found.settled_deg, found.amplitude_deg) == (
        pytest.approx(5, abs=0.15),
        pytest.approx(2.5, abs=0.4),
    )
    rpm = np.linspace(700, 2700, len(t))
    slope = speed_slope(rpm, 0.8 * rpm / 1000 + noise)
    assert slope is not None
    assert abs(slope.deg_per_krpm - 0.8) < 4 * slope.stderr
    assert speed_slope(np.full(len(t), 720.0), noise) is None
    edges = np.array([20.0, 105, 200, 240, 330, 460, 610, 640])
    wave = half_order(edges, 0.6 * np.cos(np.radians(edges - 250) / 2), np.full(8, 0.01))
    assert wave is not None
    assert (wave.amplitude_deg, wave.peak_deg) == (pytest.approx(0.6), pytest.approx(250))
    assert half_order(edges[:4], edges[:4] * 0, edges[:4] * 0) is None


def test_a_change_is_clear_only_beyond_its_error(book: EngineBook) -> None:
    first = {"cam_a_in": (2.0, 0.05), "cam_b_in": (1.0, 0.5), "cam_a_ex": (0.0, 0.01)}
    second = {"cam_a_in": (3.0, 0.05), "cam_b_in": (2.0, 0.5), "cam_a_ex": (0.05, 0.01)}
    found = {c.cam: c for c in compare_cams(book, first, second)}
    assert list(found) == ["cam_a_in", "cam_a_ex", "cam_b_in"]
    assert {k: c.is_clear for k, c in found.items()} == {
        "cam_a_in": True,
        "cam_b_in": False,
        "cam_a_ex": False,
    }
    assert "1.00° later" in found["cam_a_in"].words
