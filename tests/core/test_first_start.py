"""The first start after a repair: how soon cams settle, and what one stops for."""

import pytest

from flaneur.core.book.schema import EngineBook
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.measuring.sheets import work_out
from flaneur.core.measuring.worksheet import WHOLE
from flaneur.core.proof.first_start import (
    cautions,
    noise_fields,
    oil_fields,
    settled_s,
    settled_words,
)


@pytest.mark.parametrize(
    ("history", "settled"),
    [
        ([], None),
        ([(0.5, 1.0), (1.0, 1.0)], None),  # not for long enough yet
        ([(0.5, 1.0), (2.0, 1.0)], 0.5),
        ([(0.5, 9.0), (1.0, 4.0), (2.0, 3.0), (4.0, 2.0)], 2.0),
        ([(0.5, 1.0), (1.0, -5.0), (3.0, 1.0), (4.5, 1.0)], 3.0),
        ([(0.5, 1.0), (9.0, 4.0)], None),  # out again
    ],
)
def test_a_cam_has_settled_once_it_stays(
    history: list[tuple[float, float]], settled: float | None
) -> None:
    assert settled_s(history, 3.5) == settled


def test_what_is_said_names_those_that_have_not_settled() -> None:
    assert settled_words({"A": 1.0, "B": 2.5}) == "every cam in its tolerance after 2.5 s"
    assert settled_words({"A": 1.0, "B": None}) == "not settled in their tolerance: B"
    assert settled_words({}) == "no cam was read"


def test_no_oil_pressure_and_a_long_rattle_are_said() -> None:
    assert cautions(1.0, 3.0) == []
    (no_oil,) = cautions(None, None)
    assert "nobody said that oil pressure came" in no_oil
    late, long = cautions(9.0, 12.0)
    assert "after 12 s" in late
    assert "rattled for 9 s" in long


def test_it_fits_the_worksheets(book: EngineBook) -> None:
    heard = work_out(book, ReadingKind.NOISE, WHOLE, noise_fields(1.25, "14 h", "all well"))
    assert heard.value == pytest.approx(1.2, abs=0.06)
    quiet = work_out(book, ReadingKind.NOISE, WHOLE, noise_fields(None, "", "all well"))
    assert "No noise heard" in quiet.words
    oil = work_out(book, ReadingKind.OIL, WHOLE, oil_fields("3.2 bar", 812.4))
    assert oil.value == pytest.approx(320)
