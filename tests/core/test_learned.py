"""What closed jobs say of how parts wear."""

import numpy as np
import pytest
from tests.support.cluster import ROOT

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.learned import KNOWN_TO, Learned, learned_from
from flaneur.core.diagnosis.wear import prior_over, unknowns
from flaneur.core.errors import ReadingError
from flaneur.core.measuring.told import OilState
from flaneur.core.readings.taken import DirectReading, Readings
from flaneur.core.readings.tests import Replaced
from flaneur.formats.books import load_book


@pytest.fixture(scope="module")
def book() -> EngineBook:
    return load_book(ROOT / "engines" / "ostrey-tansy.yaml")


def closed(
    book: EngineBook, shares: dict[str, float], hours: float | None = 3000, **more: object
) -> Readings:
    """A closed job with parts worn so many times as the book's typical."""
    usual = {i.key: i.mean for i in unknowns(book, hours, "good")}
    direct = [DirectReading(part=k, value=v * usual[k], stderr=0.02) for k, v in shares.items()]
    return Readings(engine=book.name, hours=hours, oil=OilState.GOOD, direct=direct, **more)


def only(found: list[Learned], kind: str) -> Learned:
    return next(each for each in found if each.kind == kind)


def test_before_any_closed_job_the_book_stands(book: EngineBook) -> None:
    assert learned_from(book, []) == []
    unmeasured = Readings(engine=book.name, hours=3000)
    assert learned_from(book, [unmeasured, closed(book, {"chain_a": 1.5}, None)]) == []


def test_it_shrinks_to_the_book_until_engines_have_spoken(book: EngineBook) -> None:
    times, known = [], []
    for number in (1, 4, 16, 64):
        found = only(learned_from(book, [closed(book, {"chain_a": 1.6})] * number), "chain")
        assert (found.engines, found.parts) == (number, number)
        times.append(found.times)
        known.append(found.known_to)
    assert times == sorted(times)
    assert 1.0 < times[0] < 1.25
    assert 1.5 < times[-1] < 1.6
    assert known == sorted(known, reverse=True)
    assert known[0] < KNOWN_TO


def test_a_shop_with_worn_chains_is_found_out(book: EngineBook) -> None:
    rng = np.random.default_rng(5)
    items = {i.key: i for i in unknowns(book, 3000, "good")}
    spread = items["chain_a"].sd / items["chain_a"].mean
    jobs = [
        closed(book, {k: float(np.exp(np.log(1.4) + rng.normal(0, spread)))})
        for k in ("chain_a", "chain_b") * 20
    ]
    found = only(learned_from(book, jobs), "chain")
    assert abs(np.log(found.times / 1.4)) < 3 * found.known_to


def test_parts_of_one_engine_are_one_witness(book: EngineBook) -> None:
    shares = dict.fromkeys(("chain_a", "chain_b", "primary"), 1.6)
    one = only(learned_from(book, [closed(book, shares)]), "chain")
    three = only(learned_from(book, [closed(book, {k: v}) for k, v in shares.items()]), "chain")
    assert one.parts == three.parts == 3
    assert (one.engines, three.engines) == (1, 3)
    assert one.times < three.times


def test_a_part_worn_out_of_turn_says_how_often_that_is(book: EngineBook) -> None:
    limit = next(i.limit for i in unknowns(book, 600, "good") if i.key == "guide_b")
    usual = next(i.mean for i in unknowns(book, 600, "good") if i.key == "guide_b")
    found = only(learned_from(book, [closed(book, {"guide_b": 1.6 * limit / usual}, 600)]), "guide")
    assert found.times < 1.1
    assert found.out_of_turn > 1.2
    sound = only(learned_from(book, [closed(book, {"guide_b": 1.0})] * 9), "guide")
    assert sound.out_of_turn < 1.0


def test_a_part_put_in_later_is_as_old_as_it_is(book: EngineBook) -> None:
    put_in = Replaced(kind="replaced", part="chain_a", hours_ago=500)
    told, untold = (
        only(learned_from(book, [closed(book, {"chain_a": 1.0}, tests=tests)]), "chain")
        for tests in ([put_in], [])
    )
    assert told.times > untold.times  # as much in 500 h as others in 3000


def test_a_part_put_in_this_very_hour_says_nothing(book: EngineBook) -> None:
    put_in = Replaced(kind="replaced", part="chain_a", hours_ago=0)
    job = closed(book, {"chain_a": 1.0}, tests=[put_in])
    assert learned_from(book, [job]) == []
    both = closed(book, {"chain_a": 1.0, "chain_b": 1.5}, tests=[put_in])
    assert only(learned_from(book, [both]), "chain").parts == 1


def test_no_finding_is_believed_beyond_reason(book: EngineBook) -> None:
    """A figure mistyped a hundredfold is a part worn out of turn, and not how parts wear."""
    wild = [closed(book, {"guide_a": 100.0, "arm_a": 0.0001})] * 80
    for found in learned_from(book, wild):
        assert 0.1 <= found.times <= 10
        assert 0.3 <= found.out_of_turn <= 5
        Readings(engine=book.name, learned=[found])


def test_what_was_learned_moves_its_kind_alone(book: EngineBook) -> None:
    learned = [Learned(kind="chain", times=1.5, known_to=0.1, out_of_turn=2.0, engines=9, parts=12)]
    plain = {i.key: i for i in unknowns(book, 3000, "good")}
    here = {i.key: i for i in unknowns(book, 3000, "good", learned=learned)}
    assert here["chain_a"].mean == pytest.approx(1.5 * plain["chain_a"].mean)
    assert here["chain_a"].worn_out == pytest.approx(2 * plain["chain_a"].worn_out)
    assert prior_over(here["chain_a"]) > prior_over(plain["chain_a"])
    assert here["guide_a"] == plain["guide_a"]


def test_another_engines_readings_are_refused(book: EngineBook) -> None:
    other = closed(book, {"chain_a": 1.0}).model_copy(update={"engine": "Tarsel Comfrey"})
    with pytest.raises(ReadingError, match="another engine"):
        learned_from(book, [other])
