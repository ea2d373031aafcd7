"""Captures with everyday troubles are read, rightly, and say what was wrong with them."""

import zlib

import numpy as np
import pytest
from bench.troubles import READ, REFUSED, Trouble, ordinary, recorded
from bench.variants import every_book

from flaneur.core.book.schema import VaneWheel
from flaneur.core.errors import CaptureError
from flaneur.core.signals.correlation import Correlation, correlate
from flaneur.core.signals.identify import share_wheels, shared_words
from flaneur.core.signals.notes import NoteCode, code_of
from flaneur.core.signals.wording import over_time_words

BOOKS = [book for book in every_book() if book.can_be_captured]
WORST_DEG = {"spikes": 0.1, "lost teeth": 0.1, "bent teeth": 0.1, "cranking": 0.3, "hum": 0.1}
SAID = {
    "spikes": {NoteCode.SPIKES, NoteCode.CHATTER},
    "bent teeth": {NoteCode.TEETH_BENT},
    "hum": {NoteCode.HUM},
}


def drawn(kind: str, number: int) -> tuple[Trouble, Correlation]:
    rng = np.random.default_rng(zlib.crc32(kind.encode()) + number)
    trouble = READ[kind](BOOKS[number % len(BOOKS)], rng)
    return trouble, correlate(trouble.capture, trouble.book)


@pytest.mark.parametrize("number", [1, 2, 4])
@pytest.mark.parametrize("kind", WORST_DEG)
def test_what_a_workshop_records_is_read(kind: str, number: int) -> None:
    trouble, found = drawn(kind, number)
    for cam in found.cams:
        heard = trouble.true_deg[cam.cam] + trouble.delayed_deg[cam.cam]
        assert cam.deviation_deg == pytest.approx(heard, abs=WORST_DEG[kind]), cam.cam
        assert abs(cam.deviation_deg - trouble.true_deg[cam.cam]) < 4 * cam.stderr_deg
    if kind in SAID:
        assert SAID[kind] & {code_of(words) for words in found.quality}


def test_a_slow_reluctor_is_not_lost_in_its_noise() -> None:
    trouble, found = drawn("cranking", 10)  # pulses of three times the noise, but long ones
    assert trouble.book.crank_wheel.sensor == "vr"
    assert found.crank.bad_turns == 0
    for cam in found.cams:
        heard = trouble.true_deg[cam.cam] + trouble.delayed_deg[cam.cam]
        assert cam.deviation_deg == pytest.approx(heard, abs=0.3)


def test_bent_teeth_are_named() -> None:
    trouble, found = drawn("bent teeth", 0)
    (said,) = (words for words in found.quality if code_of(words) is NoteCode.TEETH_BENT)
    for tooth in ("first", "second"):
        assert f"{trouble.said[tooth] + 1:.0f} by" in said


@pytest.mark.parametrize("number", [0, 1, 3])
def test_a_cam_that_moves_is_read_where_it_ends_and_said(number: int) -> None:
    trouble, found = drawn("moves", number)
    ((which, (before, after)),) = trouble.moved.items()
    cam = next(c for c in found.cams if c.cam == which)
    assert cam.moved is not None
    assert cam.moved.from_deg == pytest.approx(before, abs=0.5)
    assert cam.deviation_deg == pytest.approx(after, abs=0.4)
    assert cam.moved.from_s - 0.5 <= trouble.said["at_s"] <= cam.moved.to_s + 0.5
    assert all(c.moved is None for c in found.cams if c.cam != which)
    assert over_time_words(cam).startswith("Moves from ")
    assert NoteCode.MOVES in [code_of(words) for words in found.quality]


def test_a_cam_that_wanders_does_not_move() -> None:
    trouble, found = drawn("wanders", 3)
    for cam in found.cams:
        assert cam.moved is None
        assert abs(cam.deviation_deg - trouble.true_deg[cam.cam]) < 4 * cam.stderr_deg
        # As many cycles as there are, and as many of them as say something new.
        assert cam.stderr_deg > 2 * cam.scatter_deg / cam.cycles**0.5


def test_a_sensors_delay_is_told_from_lateness_by_the_speed() -> None:
    """At one speed the book's tolerance is in the error; over many a clear delay is taken off, and
    one that is not stays in the error.
    """
    _, steady = drawn("fast", 2)
    assert all(cam.delay is not None and not cam.delay.told for cam in steady.cams)
    assert all(cam.stderr_deg > 0.2 for cam in steady.cams)
    book, rng = BOOKS[1], np.random.default_rng(3)
    slow = next(iter(book.cam_wheels))
    course = ((0.0, 800.0), (2.0, 800.0), (5.0, 3500.0), (6.5, 3500.0), (9.0, 900.0))
    conditions = ordinary(rng, seconds=9.0, rate_hz=100_000.0, course=course, delay_us={slow: 80.0})
    trouble = recorded(book, conditions, rng, "sweep")
    for cam in correlate(trouble.capture, book).cams:
        assert cam.delay is not None
        is_slow = cam.cam == book.cam_wheels[slow].shaft
        assert cam.delay.told == is_slow
        assert cam.delay.delay_us == pytest.approx(80.0 if is_slow else 0.0, abs=15)
        assert cam.deviation_deg == pytest.approx(trouble.true_deg[cam.cam], abs=0.2)
        assert cam.stderr_deg < 0.2
        assert ("Its sensor answers" in over_time_words(cam)) == is_slow


def test_a_rate_that_is_too_slow_is_refused_as_that() -> None:
    make, reason = REFUSED["too slow"]
    for number in range(3):
        trouble = make(BOOKS[number], np.random.default_rng(number))
        with pytest.raises(CaptureError) as error:
            correlate(trouble.capture, trouble.book)
        assert reason in error.value.message
        assert "kHz or more" in error.value.expected


def test_books_that_share_their_wheels_are_named() -> None:
    tansy = next(book for book in BOOKS if book.name == "Ostrey Tansy")
    others = [book for book in BOOKS if book.name != tansy.name]
    assert not any(share_wheels(tansy, other) for other in others)
    assert shared_words(tansy, BOOKS) == []
    turned = {
        key: wheel.model_copy(
            update={"vanes_deg": [(a + 30.0, b + 30.0) for a, b in wheel.vanes_deg]}
        )
        if isinstance(wheel, VaneWheel)
        else wheel
        for key, wheel in tansy.tone_wheels.items()
    }
    twin = tansy.model_copy(update={"name": "Ostrey Yarrow", "tone_wheels": turned})
    assert share_wheels(tansy, twin)
    (said,) = shared_words(tansy, [*others, twin])
    assert said.startswith("Ostrey Tansy and Ostrey Yarrow share their wheels")
    assert code_of(said) is NoteCode.SHARED_WHEELS
    other = {**turned, "wheel_crank": tansy.crank_wheel.model_copy(update={"teeth": 36})}
    assert not share_wheels(tansy, twin.model_copy(update={"tone_wheels": other}))
