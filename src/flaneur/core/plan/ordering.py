"""The order of a plan: lawful by the book's rules, proven safe by walking it, short for people."""

from collections.abc import Sequence
from dataclasses import dataclass

import networkx as nx

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import PlanError
from flaneur.core.plan.ground import makers_word
from flaneur.core.plan.making import step_of
from flaneur.core.plan.order import MILESTONES, in_usual_order, step_graph
from flaneur.core.plan.places import place_of
from flaneur.core.plan.position import Concern
from flaneur.core.plan.shorter import FEW_STATES, MOST_STATES, Changes, Needs, changes_of, shortest
from flaneur.core.plan.timeline import Stretch, begins_of, stretches
from flaneur.core.plan.walk import Walked, knows_positions, walker

MOST_TRIES = 12


@dataclass(frozen=True)
class Ordered:
    """Steps in their order, by reference, with what follows from it.

    ``waits_for`` and ``held_up`` name the steps each waits for and those that wait for it, the
    nearest ones only; ``walked`` is empty where the book does not say what its steps do.
    """

    refs: list[str]
    walked: list[Walked]
    changes: Changes
    usual_changes: Changes
    is_shortest: bool
    begins: dict[str, float]
    elapsed_minutes: float
    helper: list[Stretch]
    places: dict[str, str | None]
    waits_for: dict[str, list[str]]
    held_up: dict[str, list[str]]


def ordered(
    book: EngineBook, scope: Sequence[str], kept: Sequence[str] = (), is_quick: bool = False
) -> Ordered:
    """The shortest lawful order of a scope in which no valve can meet a piston; the book's own
    where ``is_quick``. Raises PlanError where no order is lawful and safe.
    """
    graph = step_graph(book, scope, kept)
    usual = in_usual_order(book, graph)
    walked = _walked(book, usual)
    _check_safe(book, walked)
    needs = {ref: _needs(book, ref) for ref in usual}
    refs, is_shortest = usual, False
    if not is_quick:
        refs, walked, is_shortest = _short(book, graph, usual, walked, needs)
    steps = {ref: step_of(book, ref) for ref in refs}
    work = {ref: (s.minutes, s.waiting) for ref, s in steps.items()}
    begins, elapsed = begins_of(graph, refs, work)
    two = {ref: s.two_person for ref, s in steps.items()}
    nearest = _nearest(graph)
    return Ordered(
        refs=refs,
        walked=walked,
        changes=changes_of(needs[r] for r in refs),
        usual_changes=changes_of(needs[r] for r in usual),
        is_shortest=is_shortest,
        begins=begins,
        elapsed_minutes=elapsed,
        helper=stretches(refs, two, begins, {r: s.minutes for r, s in steps.items()}),
        places={ref: needs[ref].place for ref in refs},
        waits_for={ref: [p for p in refs if (p, ref) in nearest] for ref in refs},
        held_up={ref: [n for n in refs if (ref, n) in nearest] for ref in refs},
    )


def _short(
    book: EngineBook,
    graph: "nx.DiGraph[str]",
    usual: list[str],
    walked: list[Walked],
    needs: dict[str, Needs],
) -> tuple[list[str], list[Walked], bool]:
    """The shortest order that walks as safely as the book's own: what goes wrong in another one is
    kept in the book's order, and it is searched again. Only where nothing had to be kept is it
    known to be the shortest.
    """
    known = {_kind(c) for w in walked for c in w.concerns}

    def wrong(found: list[Walked]) -> Concern | None:
        return next((c for w in found for c in w.concerns if _kind(c) not in known), None)

    held, best, way = graph.copy(), usual, walked
    for _ in range(MOST_TRIES):
        refs, _ = shortest(held, usual, needs, FEW_STATES)
        if refs is None:
            break
        found = _walked(book, refs)
        concern = wrong(found)
        if concern is None:
            best, way = refs, found
            break
        if not _hold(held, usual, refs, concern.step):
            break
    cost = changes_of(needs[r] for r in best).cost
    refs, is_shortest = shortest(held, usual, needs, MOST_STATES, cost)
    if refs is not None:
        found = _walked(book, refs)
        if wrong(found) is not None:
            return best, way, False
        best, way = refs, found
    return best, way, is_shortest and held.number_of_edges() == graph.number_of_edges()


def _kind(concern: Concern) -> tuple[str, str]:
    return concern.step, concern.kind


def _hold(graph: "nx.DiGraph[str]", usual: list[str], refs: list[str], step: str) -> bool:
    """Keep a step where the book has it among those that changed sides with it; whether any did."""
    was, now = {r: i for i, r in enumerate(usual)}, {r: i for i, r in enumerate(refs)}
    crossed = [r for r in refs if (was[r] < was[step]) != (now[r] < now[step]) and r != step]
    for ref in crossed:
        graph.add_edge(*((ref, step) if was[ref] < was[step] else (step, ref)))
    return bool(crossed)


def _walked(book: EngineBook, refs: list[str]) -> list[Walked]:
    return walker(book).walk(refs) if knows_positions(book) else []


def _check_safe(book: EngineBook, walked: list[Walked]) -> None:
    """Raise PlanError for a step in which a valve can meet a piston, unless the book says that the
    maker's order does so.
    """
    for step in walked:
        bends = [c for c in step.concerns if c.bends]
        if bends and not makers_word(book, step.ref):
            raise PlanError(
                f"In “{step_of(book, step.ref).title}” a valve can meet a piston.",
                read=bends[0].found,
                expected=bends[0].expected,
                advice=f"{bends[0].way_out} This plan is not offered: mend the engine book.",
            )


def _needs(book: EngineBook, ref: str) -> Needs:
    step = step_of(book, ref)
    return Needs(frozenset(step.tools), place_of(book, ref), step.two_person)


def _nearest(graph: "nx.DiGraph[str]") -> set[tuple[str, str]]:
    """Pairs of steps of which one waits for the other with none between."""
    plain = graph.copy()
    plain.remove_nodes_from(MILESTONES)
    reduced: nx.DiGraph[str] = nx.transitive_reduction(plain)
    return set(reduced.edges)
