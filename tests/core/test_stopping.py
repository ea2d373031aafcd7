"""A hard stop at an angle: what can meet there, and which chain set wrong would do it."""

from datetime import UTC, datetime

import numpy as np
import pytest
from tests.core.test_engines import BOOKS

from flaneur.core.bench.answers import Seen
from flaneur.core.bench.tally import Answered, Tally, tally
from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import Contacts
from flaneur.core.engine.compiled import compiled
from flaneur.core.plan.plan import Plan, make_plan
from flaneur.core.plan.steps import AskedKind
from flaneur.core.proof.hands import HandTurns, HardStop
from flaneur.core.proof.stopping import (
    FOUND_RIGHT,
    FOUND_WRONG,
    before,
    first_meeting,
    standing_view,
    stop_view,
)

EVERY = list(BOOKS.values())
NOTHING = tally([])


def seen_at(number: int, contact: str, teeth: int, step: str, reopened: bool = False) -> Answered:
    mark = Seen(
        kind=AskedKind.MARK, ask="?", typed="", ok=not teeth, words="", contact=contact, teeth=teeth
    )
    at = datetime(2026, 11, 28, tzinfo=UTC)
    return Answered(number, step, (mark,), not teeth, None, "Ivo", at, reopened)


def asking(plan: Plan) -> tuple[str, str]:
    """A contact some step asks for, and that step."""
    return next((a.contact, s.ref) for s in plan.steps for a in s.asked if a.contact)


@pytest.mark.parametrize("book", EVERY, ids=lambda b: b.name)
def test_it_meets_where_room_first_runs_out(book: EngineBook) -> None:
    contacts, train = Contacts(book), compiled(book).train
    start = book.service_position.crank_deg
    met = 0
    for contact in train.contacts():
        for teeth in (-3, 3):
            late = {cam: deg * teeth for cam, deg in train.jump_deg(contact).items()}
            found = first_meeting(contacts, late, start)
            if found is None or "each other" in found[1]:
                continue
            met += 1
            until = (found[0] - start) % 720
            on = start + np.arange(0.0, until - 1, 0.25)
            rows = [r for r in contacts.rows if late[r.group.cam]]
            free = [r.gap_mm(on) > r.reach_mm(on - late[r.group.cam]) for r in rows]
            assert np.all(free), "nothing met before"
            at = np.array([found[0]])
            assert any(r.gap_mm(at)[0] <= r.reach_mm(at - late[r.group.cam])[0] for r in rows)
    assert met or not contacts.engine.interference or "Quillon" in book.name


def test_the_tooth_that_stops_it_there_leads_once_its_chain_was_laid(book: EngineBook) -> None:
    train, contacts = compiled(book).train, Contacts(book)
    start, contact = book.service_position.crank_deg, "chain_a/cam_a_in"
    late = {cam: deg * -3 for cam, deg in train.jump_deg(contact).items()}
    meeting = first_meeting(contacts, late, start)
    assert meeting is not None
    view = stop_view(book, make_plan(book, ["chain_a_part"]), NOTHING, meeting[0])
    assert sum(c.odds for c in view.causes) == pytest.approx(1, abs=0.05)
    teeth = [c for c in view.causes if c.teeth]
    assert teeth
    assert abs((teeth[0].meets_at_deg or 0) - meeting[0]) < 12
    assert view.causes[-1].contact is None or len(view.causes) > 1
    far = stop_view(book, None, NOTHING, (meeting[0] + 100) % 720)
    assert far.causes[0].contact is None, "where no tooth stops it something is in the way"
    assert "left in" in far.causes[0].words


def test_what_the_bench_saw_of_a_contact_moves_its_odds(book: EngineBook) -> None:
    plan = make_plan(book, ["chain_a_part"])
    contact, step = asking(plan)
    plain = before(contact, 1, plan, NOTHING)
    assert before(contact, 1, None, NOTHING) < plain / 10, "nobody touched it"
    assert before(contact, 2, plan, NOTHING) < plain
    right = tally([seen_at(1, contact, 0, step)])
    assert before(contact, 1, plan, right) == pytest.approx(plain * FOUND_RIGHT)
    once = tally([seen_at(1, contact, 1, step, reopened=True), seen_at(2, contact, 0, step)])
    assert before(contact, 1, plan, once) == pytest.approx(plain * FOUND_RIGHT * FOUND_WRONG)
    assert before(contact, -1, plan, once) == pytest.approx(plain * FOUND_RIGHT)


def test_what_is_not_known_is_not_made_up(book: EngineBook) -> None:
    blind = book.model_copy(update={"clearance": None})
    assert "take it that any valve" in stop_view(blind, None, NOTHING, 100.0).unknown
    thistle = next(b for b in EVERY if "Thistle" in b.name)
    view = stop_view(thistle, None, NOTHING, 100.0)
    assert "no valve reaches a piston" in view.unknown
    assert [c.contact for c in view.causes] == [None]


def test_only_a_stop_that_stands_and_says_where_is_looked_into(book: EngineBook) -> None:
    def view(stop: HardStop) -> object:
        return standing_view(book, None, NOTHING, HandTurns(hard_stop=True, stops=[stop]))

    felt = HardStop(by="Ivo", at="2026-11-28T02:00:00+00:00", turns=0.5)
    assert view(felt) is None
    assert view(felt.model_copy(update={"at_deg": 203.0})) is not None
    told = felt.model_copy(update={"at_deg": 203.0, "cause": "a spanner"})
    assert view(told) is None
    assert "at_deg" not in felt.model_dump(), "seals of older jobs hold"


def test_something_laid_in_makes_it_likelier_that_it_is_in_the_way(book: EngineBook) -> None:
    plan = make_plan(book, ["chain_a_part"])
    laid = Tally({}, (), 0, {}, (), laid=("a rag",))  # type: ignore[arg-type]
    odds = [
        next(c.odds for c in stop_view(book, plan, t, 400.0).causes if c.meets_at_deg is None)
        for t in (NOTHING, laid)
    ]
    assert odds[1] >= odds[0]
