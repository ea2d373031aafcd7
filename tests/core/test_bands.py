"""What every answer on a worksheet stands for is written out: nothing falls through to a band."""

import pytest

from flaneur.core.book.schema import EngineBook
from flaneur.core.choices import Worded
from flaneur.core.measuring import hands, looks
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.measuring.sheets import work_out
from flaneur.core.measuring.told import AccessoryNoise, OilState

TABLES = [
    (hands.Feel, hands.FEELS),
    (hands.ToolFit, hands.FITS),
    (looks.Amount, looks.AMOUNTS),
    (looks.Look, looks.LOOKS),
    (looks.BeltOff, looks.BELTS),
    (looks.Level, looks.LEVELS),
]


@pytest.mark.parametrize(("answers", "bands"), TABLES, ids=lambda x: getattr(x, "__name__", ""))
def test_every_answer_has_a_band_of_its_own(
    answers: type[Worded], bands: dict[Worded, str]
) -> None:
    assert set(bands) == set(answers)
    assert set(bands.values()) <= {"fine", "marginal", "replace", "unknown"}


@pytest.mark.parametrize(("answers", "bands"), TABLES, ids=lambda x: getattr(x, "__name__", ""))
def test_what_was_not_looked_at_is_never_fine(
    answers: type[Worded], bands: dict[Worded, str]
) -> None:
    for answer in answers:
        if answer.value in ("not_tried", "not_looked", "not_seen"):
            assert bands[answer] == "unknown", answer


@pytest.mark.parametrize("feel", hands.Feel)
def test_a_tensioner_is_judged_by_how_it_feels(book: EngineBook, feel: hands.Feel) -> None:
    fields = {"method": "feel", "feel": str(feel)}
    answer = work_out(book, ReadingKind.COMPRESS, "chain_a", fields)
    assert answer.band == hands.FEELS[feel]
    assert feel.words in answer.words
    assert "Relative only" in answer.words


@pytest.mark.parametrize(("level", "band"), looks.LEVELS.items())
def test_a_level_alone_never_says_that_all_is_well(
    book: EngineBook, level: looks.Level, band: str
) -> None:
    answer = work_out(book, ReadingKind.OIL, "engine", {"level": str(level)})
    assert answer.band == ("unknown" if band == "fine" else band)
    assert "pressure not measured" in answer.words


@pytest.mark.parametrize("kind", [OilState, AccessoryNoise])
def test_a_code_nobody_knows_is_no_member(kind: type[Worded]) -> None:
    assert kind.coded("unknown") is kind("unknown")
    for other in ("purple", None, 3, ""):
        assert kind.coded(other) is None
