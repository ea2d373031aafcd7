"""Hum and spikes are taken off a channel, and nothing else is."""

import numpy as np
import pytest

from flaneur.core.signals.edges import find_edges
from flaneur.core.signals.interference import without_hum, without_spikes
from flaneur.core.signals.wandering import mean_stderr

RATE = 50_000.0
T = np.arange(int(6 * RATE)) / RATE


def square(rng: np.random.Generator) -> np.ndarray:
    level = np.where((T * 311.0) % 1.0 < 0.4, 4.7, 0.2)
    return (level + rng.normal(0, 0.05, len(T))).astype(np.float32)


def pulses(rng: np.random.Generator) -> np.ndarray:
    u = ((T * 311.0) % 1.0 - 0.5) / 0.1
    return (-1.4 * u * np.exp(0.5 - u * u / 2) + rng.normal(0, 0.03, len(T))).astype(np.float32)


@pytest.mark.parametrize("hertz", [50.03, 59.9])
@pytest.mark.parametrize(("kind", "made"), [("hall", square), ("vr", pulses)])
def test_hum_is_found_and_taken_out(kind: str, made, hertz: float) -> None:  # type: ignore[no-untyped-def]
    plain = made(np.random.default_rng(1))
    hum = 1.8 * np.sin(2 * np.pi * hertz * T + 0.7)
    clean, volts = without_hum(plain + hum.astype(np.float32), RATE, kind)
    assert volts == pytest.approx(1.8, rel=0.05)
    assert float(np.percentile(np.abs(clean - plain), 99)) < 0.08


@pytest.mark.parametrize(("kind", "made"), [("hall", square), ("vr", pulses)])
def test_a_channel_without_hum_is_left_as_it_is(kind: str, made) -> None:  # type: ignore[no-untyped-def]
    plain = made(np.random.default_rng(2))
    clean, volts = without_hum(plain, RATE, kind)
    assert clean is plain
    assert volts == 0.0


def test_spikes_go_from_a_reluctors_channel_and_its_pulses_stay() -> None:
    rng = np.random.default_rng(3)
    plain, spoilt = pulses(rng), pulses(np.random.default_rng(3)).copy()
    at = np.sort(rng.choice(len(T) - 100, 60, replace=False))
    for place in at.tolist():
        shape = rng.choice([-1, 1]) * rng.uniform(4, 8) * np.exp(-np.arange(20) / 1.5)
        spoilt[place : place + 20] += shape.astype(np.float32)
    clean, number = without_spikes(spoilt, RATE)
    assert number == pytest.approx(60, abs=4)
    assert float(np.max(np.abs(clean - plain))) < 1.2
    assert float(np.mean(np.abs(clean - plain) > 0.3)) < 1e-3
    same, none = without_spikes(plain, RATE)
    assert (same is plain, none) == (True, 0)


def test_spikes_are_no_edges_and_the_edge_beside_one_stays() -> None:
    plain = square(np.random.default_rng(4))
    spoilt = plain.copy()
    edges = find_edges(plain, RATE, "crank")
    for k in range(40, 1600, 40):
        place = int(edges.times_s[k] * RATE) + 25
        spoilt[place : place + 3] += np.float32(7.0 if spoilt[place] < 2 else -7.0)
    found = find_edges(spoilt, RATE, "crank")
    assert len(found.times_s) == len(edges.times_s)
    assert float(np.max(np.abs(found.times_s - edges.times_s))) < 4e-6


@pytest.mark.parametrize("cycles", [0.0, 3.0, 10.0])
def test_the_error_of_a_mean_is_the_one_it_makes(cycles: float) -> None:
    """White noise or a slow walk: over many runs the error is what was stated."""
    rng = np.random.default_rng(5)
    keeps = np.exp(-1 / cycles) if cycles else 0.0
    scaled = []
    for _ in range(120):
        walk = np.zeros(80)
        walk[0] = rng.normal(0, 0.4)
        for i in range(1, 80):
            walk[i] = keeps * walk[i - 1] + rng.normal(0, 0.4 * np.sqrt(1 - keeps**2))
        values = walk + rng.normal(0, 0.1, 80)
        scaled.append(values.mean() / mean_stderr(values))
    assert 0.55 < float(np.sqrt(np.mean(np.square(scaled)))) < 1.15


def test_a_run_too_short_to_tell_has_the_plain_error() -> None:
    assert mean_stderr(np.array([1.0, 3.0])) == pytest.approx(1.0)
    assert mean_stderr(np.array([1.0])) == 0.0
    assert mean_stderr(np.full(20, 2.0)) == 0.0
