"""Events laid against a wheel as a whole: lost, added and bent teeth, wheels of other engines."""

import numpy as np
import pytest
from numpy.typing import NDArray

from flaneur.core.signals.laying import Laid, lay, troubles_of, turn_of

Floats = NDArray[np.float64]
GAP: Floats = 6.0 * np.arange(58, dtype=np.float64)  # sixty places, the last two of them empty
FEW = np.array([0.0, 40.0, 80.0, 130.0, 170.0, 210.0, 250.0, 300.0])


def turned(angles: Floats, turns: int = 12, wave: float = 0.0) -> Floats:
    """Times of a wheel's events at about 700 rpm, its speed waving three times a turn."""
    theta = (angles[None, :] + 360.0 * np.arange(turns)[:, None]).ravel()
    return (theta + wave * 20 * np.sin(np.radians(3 * theta))) / 4200.0


def right(laid: Laid, angles: Floats) -> bool:
    """Whether every event is the tooth it is; the first and the last turn may be unsure."""
    inner = slice(len(angles), -len(angles))
    return bool(
        np.array_equal(laid.tooth[inner], (np.arange(len(laid.tooth)) % len(angles))[inner])
    )


@pytest.mark.parametrize(
    ("angles", "wave"), [(GAP, 0.0), (GAP, 0.5), (FEW, 0.0), (FEW, 0.1)], ids=str
)
def test_a_sound_wheel_is_laid_as_it_is(angles: Floats, wave: float) -> None:
    laid = lay(turned(angles, wave=wave), angles)
    assert right(laid, angles)
    found = troubles_of(laid, angles)
    assert found.sound
    assert (found.added, found.lost, found.anew, found.missing) == (0, 0, 0, ())
    assert turn_of(laid)[-1] == 11


def test_lost_teeth_and_events_too_many_are_counted_at_their_place() -> None:
    times = turned(GAP)
    spoilt = np.sort(np.append(np.delete(times, [100, 101, 300]), [times[400] + 3e-4]))
    laid = lay(spoilt, GAP)
    found = troubles_of(laid, GAP)
    assert (found.sound, found.added, found.lost, found.turns) == (True, 1, 3, 3)
    kept = laid.tooth >= 0
    assert np.array_equal(laid.tooth[kept][:100], np.arange(100) % 58)
    assert laid.lost[100] == 2
    assert spoilt[~kept] == pytest.approx([times[400] + 3e-4])


@pytest.mark.parametrize("tooth", [0, 20, 57])
@pytest.mark.parametrize("by", [-1.6, 1.6])
def test_a_bent_tooth_is_that_tooth_in_every_turn(tooth: int, by: float) -> None:
    bent = GAP.copy()
    bent[tooth] += by
    laid = lay(turned(bent), GAP)
    assert right(laid, GAP)
    assert troubles_of(laid, GAP).sound


def test_an_event_that_was_disturbed_once_is_left_out() -> None:
    times = turned(GAP)
    times[200] += 0.4 * (times[201] - times[200])
    laid = lay(times, GAP)
    assert laid.tooth[200] == -1
    assert np.array_equal(np.delete(laid.tooth, 200), np.delete(np.arange(len(times)) % 58, 200))


def test_a_tooth_that_never_shows_is_the_wheels_own() -> None:
    found = troubles_of(lay(turned(np.delete(GAP, 30)), GAP), GAP)
    assert found.sound
    assert found.missing == (30,)


@pytest.mark.parametrize(
    "other",
    [6.0 * np.arange(59), 10.0 * np.arange(35), 9.0 * np.arange(39)],
    ids=["60-1", "36-1", "40-1"],
)
def test_another_wheel_is_not_taken_for_this_one(other: Floats) -> None:
    found = troubles_of(lay(turned(other), GAP), GAP)
    assert not found.sound


def test_a_cut_in_the_recording_is_counted_anew() -> None:
    times = turned(GAP)
    cut = np.concatenate([times[:250], times[270:] - (times[270] - times[250]) * 0.4])
    laid = lay(cut, GAP)
    found = troubles_of(laid, GAP)
    assert found.sound
    assert found.anew + found.lost > 0
    assert np.array_equal(laid.tooth[-50:], (np.arange(len(times)) % 58)[-50:])
