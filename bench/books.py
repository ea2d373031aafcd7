"""The books: whether any step of any plan bends a valve, by a witness that shares nothing with the
walk; whether a book spoilt in one place is noticed; how many cautions a plan cries; how fast.
"""

import random
import statistics
import sys
import time
from collections.abc import Iterator
from dataclasses import dataclass, field
from itertools import combinations
from pathlib import Path

import numpy as np
import yaml
from numpy.typing import NDArray
from tests.support.witness import Row, Witness

from bench.figure import Figure, at_least, at_most, factor_of, for_information
from bench.spoilt import spoilt
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.ways import on_ways
from flaneur.core.errors import FlaneurError
from flaneur.core.keys import StepRef, Verb
from flaneur.core.plan.ground import makers_word
from flaneur.core.plan.order import work_order
from flaneur.core.plan.plan import Plan, make_plan
from flaneur.core.plan.steps import PlanStep
from flaneur.core.plan.walk import Walker, walker
from flaneur.formats.books import examine, load_book

Floats = NDArray[np.float64]
ENGINES = Path(__file__).parents[1] / "engines"
WALKS, SPOILT = 10_000, 500
UNSEEN_SHARE = 0.25
WALK_MS = 150.0
# Cautions a plan cried before the books were written on templates, over the same scopes.
MEDIAN_BEFORE, MOST_BEFORE = 32, 68


def run(is_tiny: bool = False) -> Iterator[Figure]:
    paths = sorted(ENGINES.glob("*.yaml"))[: 2 if is_tiny else None]
    books = [load_book(path) for path in paths]
    yield from _plans(books, is_tiny)
    yield from _walks(books, 60 if is_tiny else WALKS)
    yield from _mutations(paths, 6 if is_tiny else SPOILT)
    yield from _times(books)


def scopes(book: EngineBook) -> list[tuple[str, ...]]:
    """Every scope of one or two parts, and the whole set."""
    parts = [k for k, c in book.components.items() if c.renewable]
    return [*((p,) for p in parts), *combinations(parts, 2), tuple(parts)]


def named(book: EngineBook) -> list[tuple[str, ...]]:
    """Scopes that must have a plan: the whole set, each chain, each tensioner, each phaser."""
    wanted = {*book.chains, *book.tensioners, *book.phasers}
    parts = [k for k, c in book.components.items() if c.renewable]
    return [tuple(parts), *((k,) for k in parts if book.components[k].part in wanted)]


def _plans(books: list[EngineBook], is_tiny: bool) -> Iterator[Figure]:
    plans = unlawful = touching = 0
    missing, cries = 0, list[int]()
    for book in books:
        usual = [((), scope) for scope in scopes(book)[:: 20 if is_tiny else 1]]
        other = [((key,), (part,)) for key, way in book.ways.items() for part in way.serves]
        for ways, scope in [*usual, *other]:
            plans += 1
            there = on_ways(book, ways)
            plan = make_plan(book, scope, ways=ways)
            for order in (work_order(there, scope), [s.ref for s in plan.steps]):
                for walked in walker(there).walk(order):
                    told = bool(makers_word(there, walked.ref))
                    touching += told and any(c.bends for c in walked.concerns)
                    wrong = [c for c in walked.concerns if not (c.bends and told)]
                    unlawful += len(wrong)
                    for concern in wrong[:3]:
                        print(f"{book.name} {ways} {scope}: {concern}", file=sys.stderr)
            cries.append(sum(len(s.cautions) for s in plan.steps))
        for scope in named(book):
            try:
                make_plan(book, scope)
            except FlaneurError as error:
                missing += 1
                print(f"{book.name} {scope}: {error}", file=sys.stderr)
    yield at_least("books", "plans of one or two parts walked", plans, 8 if is_tiny else 700)
    yield at_most("books", "steps unsafe, unreachable, unseen or out of order", unlawful, 0)
    yield at_most("books", "named scopes without a plan", missing, 0)
    yield for_information("books", "steps in which the maker's own order touches", touching)
    yield at_most(
        "books", "cautions of a plan, median", statistics.median(cries), MEDIAN_BEFORE - 1
    )
    yield at_most("books", "cautions of a plan, most", max(cries), MOST_BEFORE - 1)


@dataclass
class Crank:
    """Many engines at once along one plan: where each cam that nothing drives stands."""

    places: dict[str, Floats] = field(default_factory=dict)
    out: dict[str, set[int]] = field(default_factory=dict)
    is_parked: bool = False


def _walks(books: list[EngineBook], walks: int) -> Iterator[Figure]:
    """Random engines led along plans: the crank anywhere in the arc a step gives, each loose cam
    let go from where it truly stands and moved as far as its springs and anybody's hand may.
    """
    rng = np.random.default_rng(15)
    chosen = [(b, s) for b in books for s in [*named(b), *scopes(b)[::7]]]
    each = max(8, walks // len(chosen) + 1)
    done = under = checked = 0
    for book, scope in chosen:
        witness = Witness(book)
        states, low = _walk(book, make_plan(book, scope), witness, each, rng)
        done, checked, under = done + each, checked + states, under + low
        if low:
            print(f"{book.name} {scope}: {low} states under the reserve", file=sys.stderr)
    yield at_least("books", "random walks along plans", done, walks)
    yield for_information("books", "states of them looked at by the witness", checked)
    yield at_most("books", "states with less room than the reserve", under, 0)


def _walk(
    book: EngineBook, plan: Plan, witness: Witness, n: int, rng: np.random.Generator
) -> tuple[int, int]:
    engine = book.clearance
    assert engine is not None
    now, looked, low, last = Crank(), 0, 0, None
    for step in plan.steps:
        state = step.state
        assert state is not None
        _notice(book, step, now)
        if state.crank_deg is None or state.crank_arc is None:
            continue
        at = state.crank_deg + rng.uniform(-1, 1, n) * engine.reserve.crank_deg
        _settle(book, witness, state, at, now, rng)
        seen = (state.crank_deg, tuple(state.crank_arc), tuple(state.cams.items()))
        if seen == last:
            continue
        last = seen
        back, on = state.crank_arc
        turned = at + rng.uniform(back, on, n)
        looked += 2 * n
        for crank in (at, turned):
            low += _under(book, witness, crank, now, rng)
    return looked, low


def _notice(book: EngineBook, step: PlanStep, now: Crank) -> None:
    """What a step says of phasers and followers: read from the book's own data."""
    if any(asked.code == "phaser_lock" for asked in step.asked):
        now.is_parked = True
    ref = StepRef.of(step.ref)
    if ref.verb is Verb.OPERATION:
        effects = book.operations[ref.key].effects
        now.out |= {k: set(v) for k, v in effects.followers_out.items()}
        for group in effects.followers_in:
            now.out.pop(group, None)


def _driven(book: EngineBook, cam: str, crank: Floats, now: Crank, rng) -> Floats:
    """Where a driven cam stands: off by what the book allows, its phaser anywhere unless locked."""
    off = rng.uniform(-1, 1, len(crank)) * book.limits.cam_deviation_deg
    key = book.phaser_of(cam)
    if key and not now.is_parked:
        phaser = book.phasers[key]
        way = -1.0 if phaser.moves == "advance" else 1.0
        off = off + way * phaser.range_deg * rng.random(len(crank))
    return crank - off


def _settle(book: EngineBook, witness: Witness, state, crank: Floats, now: Crank, rng) -> None:
    """Cams let go swing from where they stand, tied ones as one, and anybody may move them back."""
    engine = book.clearance
    assert engine is not None
    loose = [cam for cam, said in state.cams.items() if said in ("free", "loaded")]
    for cam, said in state.cams.items():
        if said == "driven":
            now.places.pop(cam, None)
        elif cam not in now.places and said == "held":
            tool = book.tools.get(state.held_by.get(cam, ""))
            at = _driven(book, cam, crank, now, rng)
            if tool is not None and tool.crank_deg is not None:
                at = crank + rng.uniform(-2, 2, len(crank)) * tool.play_deg
            now.places[cam] = at
    for group in _tied(book, [c for c in loose if c not in now.places], state):
        starts = np.stack([_driven(book, cam, crank, now, rng) for cam in group], axis=1)
        if all(book_cam in _still(book, now) for book_cam in group):
            swung = np.zeros(len(crank))
        else:
            friction = engine.cam_friction_nm * len(group) * rng.uniform(0.5, 2.0, len(crank))
            swung = witness.swing(list(group), starts, friction) * rng.random(len(crank))
        for k, cam in enumerate(group):
            now.places[cam] = starts[:, k] + swung


def _still(book: EngineBook, now: Crank) -> set[str]:
    """Cams whose followers are all out: no spring turns them."""
    assert book.clearance is not None
    rows = book.clearance.valves
    cams = {g.cam for g in rows.values()}
    return {
        cam
        for cam in cams
        if all(set(g.cylinders) <= now.out.get(k, set()) for k, g in rows.items() if g.cam == cam)
    }


def _tied(book: EngineBook, cams: list[str], state) -> list[tuple[str, ...]]:
    """Cams that chains left on and taut tie to each other."""
    loose = {*state.chains_off, *state.slack}
    groups: list[set[str]] = [{cam} for cam in cams]
    for key, chain in book.chains.items():
        if key in loose:
            continue
        shafts = {book.sprockets[s].shaft for s in chain.loop if s in book.sprockets}
        joined = [g for g in groups if g & shafts]
        if len(joined) > 1:
            groups = [g for g in groups if g not in joined] + [set().union(*joined)]
    return [tuple(sorted(g)) for g in groups]


def _under(book: EngineBook, witness: Witness, crank: Floats, now: Crank, rng) -> int:
    """How many of these engines have less room than the reserve where a loose cam is concerned."""
    engine = book.clearance
    assert engine is not None
    if not now.places:
        return 0
    cams = {
        cam: now.places[cam] if cam in now.places else _driven(book, cam, crank, now, rng)
        for cam in book.cams
    }
    room = np.full(len(crank), np.inf)
    rows = [r for r in witness.rows if not _is_out(book, r, now)]
    for row in rows:
        if row.group.cam in now.places:
            room = np.minimum(room, witness.piston_room(row, crank, cams[row.group.cam]))
    for a in rows:
        for b in rows:
            is_pair = a.group.kind == "intake" and b.group.kind == "exhaust"
            is_apart = a.cylinder == b.cylinder and a.group.cam != b.group.cam
            if is_pair and is_apart and {a.group.cam, b.group.cam} & set(now.places):
                heads = witness.heads_room(a, b, cams[a.group.cam], cams[b.group.cam])
                room = np.minimum(room, heads)
    return int(np.sum(room < engine.reserve.room_mm - 2e-3))


def _is_out(book: EngineBook, row: Row, now: Crank) -> bool:
    assert book.clearance is not None
    keys = [k for k, g in book.clearance.valves.items() if g is row.group]
    return any(row.cylinder in now.out.get(k, set()) for k in keys)


def _mutations(paths: list[Path], many: int) -> Iterator[Figure]:
    """Books spoilt in one rule, mark, length or order: refused, or the plans change."""
    rng = random.Random(15)
    texts = {path.stem: path.read_text(encoding="utf-8") for path in paths}
    raws = {name: yaml.safe_load(text) for name, text in texts.items()}
    plain = {name: _shown(text) for name, text in texts.items()}
    refused = changed = 0
    unseen: list[str] = []
    for _ in range(many):
        name = rng.choice(sorted(raws))
        raw, what = spoilt(raws[name], rng)
        text = yaml.safe_dump(raw, allow_unicode=True, sort_keys=False)
        shown = _shown(text)
        if shown is None:
            refused += 1
        elif shown != plain[name]:
            changed += 1
        else:
            unseen.append(f"{name}: {what}")
    for line in sorted(unseen):
        print(f"unseen  {line}", file=sys.stderr)
    yield at_least("books", "spoilt books", many, many)
    yield for_information("books", "of them refused, with path and figure", refused)
    yield for_information("books", "of them with another plan", changed)
    yield at_most("books", "of them unseen", len(unseen), UNSEEN_SHARE * many)


def _shown(text: str) -> list[object] | None:
    """What a book's plans say: the whole set word for word, every part's order; None where the book
    is refused.
    """
    examined = examine(text)
    if examined.faults or examined.book is None:
        return None
    book = examined.book
    single = [s for s in scopes(book) if len(s) == 1]
    whole = make_plan(book, scopes(book)[-1], is_quick=True).model_dump()
    return [whole, *(work_order(book, scope) for scope in single)]


def _times(books: list[EngineBook]) -> Iterator[Figure]:
    """A walk of the whole set on the slowest book, its clearance not yet asked for anything."""
    worst = 0.0
    for book in books:
        order = work_order(book, [k for k, c in book.components.items() if c.renewable])

        def walk(book: EngineBook = book, order: list[str] = order) -> object:
            return Walker(book).walk(order)

        taken, factor = factor_of(walk, 3)
        worst = max(worst, taken / factor)
    yield at_most(
        "books", "a walk on the slowest book, ms of the reference machine", worst, WALK_MS
    )
    begun = time.perf_counter()
    for book in books:
        make_plan(book, scopes(book)[-1])
    each = 1000 * (time.perf_counter() - begun) / len(books)
    yield for_information("books", "a plan once its book is known, ms", each)
