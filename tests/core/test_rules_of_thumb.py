"""Rule-of-thumb bands: what the shop judges by where a book gives no limit, and nowhere else."""

import pytest
from pydantic import ValidationError
from tests.core.test_diagnosis import probability
from tests.support.cluster import ROOT

from flaneur.core.book.bands import Bands, judged_by, left_open
from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.verdict import diagnose
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.measuring.sheets import work_out, worksheets
from flaneur.core.readings.taken import Readings
from flaneur.core.readings.tests import Oil
from flaneur.formats.books import load_book

SHOP = Bands(lash_fine_deg=5, lash_replace_deg=10, leak_down_s=9, oil_kpa_hot_idle=130)
PRESSED = {"method": "time", "time": "6 s", "load": "200 N"}
OIL = {"level": "full", "pressure": "60 kPa", "warm": "90 °C", "speed": "700 rpm"}


@pytest.fixture(scope="module")
def bare() -> EngineBook:
    """A book that leaves its oil pressure open."""
    return load_book(ROOT / "engines" / "skarne-burdock.yaml")


def test_what_the_book_says_stands_before_the_shops_rule(book: EngineBook) -> None:
    assert not left_open(book)
    assert judged_by(book, SHOP) is book


def test_a_shop_without_rules_changes_nothing(bare: EngineBook) -> None:
    assert judged_by(bare, Bands()) is bare
    assert judged_by(bare, None) is bare


def test_every_band_fills_what_a_book_leaves_open(book: EngineBook) -> None:
    tensioners = {
        key: t.model_copy(update={"leak_down_s": None}) for key, t in book.tensioners.items()
    }
    limits = book.limits.model_copy(update={"lash_bands_deg": None, "oil_kpa_hot_idle": None})
    stripped = book.model_copy(update={"tensioners": tensioners, "limits": limits})
    assert left_open(stripped) == set(Bands.model_fields)
    judged = judged_by(stripped, SHOP)
    assert judged != stripped
    assert judged.limits.lash_bands_deg == (5, 10)
    assert {t.leak_down_s for t in judged.tensioners.values()} == {9}
    for asked, before, after in (
        ((ReadingKind.COMPRESS, "chain_a", PRESSED), "unknown", "marginal"),
        ((ReadingKind.OIL, "engine", OIL), "unknown", "replace"),
    ):
        kind, part, typed = asked
        assert work_out(stripped, kind, part, typed).band == before
        answer = work_out(judged, kind, part, typed)
        assert answer.band == after
        assert "by the shop's rule" in answer.words
        notes = [p.note for s in worksheets(judged) if s.kind is kind for p in s.parts]
        assert all("by the shop's rule" in note for note in notes)


def test_the_verdict_hears_oil_pressure_once_there_is_a_rule(bare: EngineBook) -> None:
    low = Oil(kind="oil", pressure_kpa=50, oil_c=92, rpm=700, level="ok")
    plain = Readings(engine=bare.name, hours=4000, tests=[low])
    before = diagnose(bare, plain)
    after = diagnose(bare, plain.model_copy(update={"bands": SHOP}))
    assert any("nothing to judge it by" in words for words in before.unused)
    assert not any("nothing to judge it by" in words for words in after.unused)
    assert probability(after, "oil_low") > 5 * probability(before, "oil_low")


@pytest.mark.parametrize(
    ("typed", "words"),
    [
        ({"lash_fine_deg": 5}, "needs both"),
        ({"lash_fine_deg": 9, "lash_replace_deg": 5}, "must be less"),
        ({"leak_down_s": 0}, "greater than 0"),
        ({"oil_kpa_hot_idle": 1e9}, "less than or equal"),
    ],
)
def test_bands_that_cannot_be_are_refused(typed: dict[str, float], words: str) -> None:
    with pytest.raises(ValidationError, match=words):
        Bands(**typed)
