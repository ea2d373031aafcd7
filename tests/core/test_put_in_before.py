"""What was put in before, by what an intake tells and what earlier jobs renewed."""

import pytest

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.verdict import diagnose
from flaneur.core.errors import ReadingError
from flaneur.core.readings.renewed import (
    check_replaced,
    latest,
    renewed_before,
    replaceable,
    replaced_words,
    told_replaced,
)
from flaneur.core.readings.taken import Readings

TOLD: dict[str, object] = {"replaced_parts": ["chain_a", "guide_a"], "replaced_at_h": 4000.0}


def test_every_wearing_part_can_be_said_to_be_new(book: EngineBook) -> None:
    asked = [part for each in replaceable(book) for part in each.parts]
    assert len(asked) == len(set(asked))
    wearing = {*book.chains, *book.guides, *book.arms, *book.tensioners, *book.phasers}
    assert set(asked) == wearing


def test_parts_are_as_old_as_the_hours_since(book: EngineBook) -> None:
    told = told_replaced(book, TOLD, 5200)
    assert {t.part: t.hours_ago for t in told} == {"chain_a": 1200, "guide_a": 1200}


@pytest.mark.parametrize(
    ("intake", "hours"),
    [
        (TOLD, None),
        ({**TOLD, "replaced_at_h": None}, 5200),
        ({**TOLD, "replaced_at_h": 6000.0}, 5200),
        ({**TOLD, "replaced_parts": "chain_a"}, 5200),
        ({**TOLD, "replaced_parts": ["piston"]}, 5200),
        ({}, 5200),
    ],
)
def test_what_is_not_known_on_both_sides_says_nothing(
    book: EngineBook, intake: dict[str, object], hours: float | None
) -> None:
    assert told_replaced(book, intake, hours) == []


def test_what_was_put_in_last_is_what_is_in_it(book: EngineBook) -> None:
    chain = next(k for k, c in book.components.items() if c.part == "chain_a")
    here = renewed_before(book, 5200, [(3000, [chain]), (4600, [chain])])
    assert [t.hours_ago for t in here] == [600]
    both = latest([*told_replaced(book, TOLD, 5200), *here])
    assert {t.part: t.hours_ago for t in both} == {"chain_a": 600, "guide_a": 1200}


def test_a_new_chain_is_not_as_worn_as_its_engine_is_old(book: EngineBook) -> None:
    old = Readings(engine=book.name, hours=9000)
    told = told_replaced(book, TOLD | {"replaced_at_h": 8900.0}, 9000)
    new = old.model_copy(update={"tests": told})

    def worn(readings: Readings) -> dict[str, float]:
        return {each.key: each.median for each in diagnose(book, readings).wear}

    before, after = worn(old), worn(new)
    assert after["chain_a"] < 0.5 * before["chain_a"]
    assert after["chain_b"] == pytest.approx(before["chain_b"], rel=0.1)


def test_parts_and_hours_that_cannot_be_are_refused_at_their_field(book: EngineBook) -> None:
    check_replaced(book, ["chain_a"], None, 4000)
    for parts, hours, then, field in (
        (["piston"], 5200, 4000, "replaced_parts"),
        (["chain_a"], 5200, 6000, "replaced_at"),
    ):
        with pytest.raises(ReadingError) as error:
            check_replaced(book, parts, hours, then)
        assert error.value.field == field


def test_it_is_said_in_words(book: EngineBook) -> None:
    words = replaced_words(book, TOLD)
    assert words.startswith(f"{book.chains['chain_a'].name}: chain")
    assert words.endswith("at 4000 h")
    assert replaced_words(book, {"replaced_parts": ["chain_a"]}).endswith("hours not known")
    assert replaced_words(book, {}) == ""
