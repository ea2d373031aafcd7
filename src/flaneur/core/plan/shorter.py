"""The lawful order that is shortest for people: fewest changes of tool and of place, and steps for
two drawn together.

A change is counted from one step to the next: another set of tools to hand, another bank or end of
the engine to stand at, a second person called. Steps that need nothing of the kind are neutral.
Counted so, a step that costs nothing where the work stands may be done at once: no order that does
it later is better (what it would change is a metric, and leaving a stop out of a way never makes it
longer). What is left is searched over all sets of steps done, with what is at hand; the best way to
each is kept, and nothing is followed that cannot cost less than what is found already. Where those
become too many, only the most promising are followed.
"""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from functools import lru_cache

import networkx as nx
from pydantic import BaseModel, ConfigDict

TOOL, PLACE, HELPER = 1, 2, 6
MOST_STATES, FEW_STATES = 600, 60  # followed from one move to the next
NO_LIMIT = 1 << 30


@dataclass(frozen=True)
class Needs:
    """What a step needs at hand: its set of tools, its place, and whether a second person."""

    tools: frozenset[str] = frozenset()
    place: str | None = None
    two: bool = False


class Changes(BaseModel):
    """Changes along an order of work: of the set of tools, of place, and calls for a helper."""

    model_config = ConfigDict(frozen=True)

    tools: int = 0
    places: int = 0
    helper: int = 0

    @property
    def cost(self) -> int:
        """All of them, weighted."""
        return TOOL * self.tools + PLACE * self.places + HELPER * self.helper


Hand = tuple[frozenset[str], str | None, bool]
NOTHING: Hand = (frozenset(), None, False)


def _after(hand: Hand, step: Needs) -> tuple[int, Hand]:
    """Cost of a step and what is at hand afterwards."""
    tools, place, two = hand
    cost = 0
    if step.tools and step.tools != tools:
        cost, tools = TOOL, step.tools
    if step.place is not None and step.place != place:
        cost, place = cost + PLACE, step.place
    if step.two and not two:
        cost += HELPER
    is_neutral = not (step.tools or step.place is not None or step.two)
    return cost, (tools, place, two if is_neutral else step.two)


def changes_of(order: Iterable[Needs]) -> Changes:
    """Count the changes along an order."""
    tools, places, helper = 0, 0, 0
    hand = NOTHING
    for step in order:
        cost, after = _after(hand, step)
        if cost:
            tools += after[0] != hand[0]
            places += after[1] != hand[1]
            helper += after[2] and not hand[2]
        hand = after
    return Changes(tools=tools, places=places, helper=helper)


def shortest(
    graph: "nx.DiGraph[str]",
    usual: list[str],
    needs: Mapping[str, Needs],
    width: int,
    bound: int | None = None,
) -> tuple[list[str] | None, bool]:
    """The order of ``usual`` that costs least among those the graph allows, and whether there is
    none better. At most ``width`` states are followed at a time, and only what may cost less than
    ``bound``: None where nothing does.
    """
    place = {ref: i for i, ref in enumerate(usual)}
    before = [sum(1 << place[p] for p in _predecessors(graph, ref) if p in place) for ref in usual]
    found, is_exact = _Search(before, [needs[ref] for ref in usual]).run(width, bound)
    return ([usual[i] for i in found[1]] if found else None), is_exact


def _predecessors(graph: "nx.DiGraph[str]", ref: str) -> set[str]:
    found: set[str] = nx.ancestors(graph, ref)  # pyright: ignore[reportUnknownMemberType]
    return found


State = tuple[int, Hand]
Told = tuple[int, tuple[int, ...]]


def _between(hand: Hand, other: Hand) -> int:
    """What it costs at most to have ``other`` at hand where ``hand`` is."""
    return (
        TOOL * (hand[0] != other[0])
        + PLACE * (hand[1] != other[1])
        + HELPER * (other[2] and not hand[2])
    )


class _Search:
    """Search by how many moves are made: sets of done steps as bits of a number."""

    def __init__(self, before: list[int], steps: list[Needs]) -> None:
        self.before, self.steps = before, steps
        self.whole = (1 << len(steps)) - 1
        self.ready: Callable[[int], list[int]] = lru_cache(maxsize=400_000)(self._ready)
        self.toolsets, self.places = dict[object, int](), dict[object, int]()
        self.two = 0
        for i, step in enumerate(steps):
            if step.tools:
                self.toolsets[step.tools] = self.toolsets.get(step.tools, 0) | 1 << i
            if step.place is not None:
                self.places[step.place] = self.places.get(step.place, 0) | 1 << i
            self.two |= step.two << i

    def _ready(self, done: int) -> list[int]:
        return [
            i
            for i, needed in enumerate(self.before)
            if not done >> i & 1 and needed & done == needed
        ]

    def _for_nothing(self, done: int, hand: Hand) -> tuple[int, tuple[int, ...]]:
        """Everything that costs nothing where the work stands, done at once."""
        did: list[int] = []
        more = True
        while more:
            more = False
            for i in self.ready(done):
                if not done >> i & 1 and _after(hand, self.steps[i]) == (0, hand):
                    done |= 1 << i
                    did.append(i)
                    more = True
        return done, tuple(did)

    def _left(self, done: int, hand: Hand) -> int:
        """What is still to be paid at least: each set of tools and place fetched once more."""
        cost = sum(
            TOOL for tools, steps in self.toolsets.items() if steps & ~done and tools != hand[0]
        )
        cost += sum(
            PLACE for place, steps in self.places.items() if steps & ~done and place != hand[1]
        )
        return cost + HELPER * bool(self.two & ~done and not hand[2])

    def run(self, width: int, bound: int | None) -> tuple[Told | None, bool]:
        """The best order by indices with its cost, and whether nothing was left out."""
        done, did = self._for_nothing(0, NOTHING)
        finished: Told | None = (0, did) if done == self.whole else None
        best: dict[State, Told] = {(done, NOTHING): (0, did)}
        is_exact = True
        while best:
            found: dict[State, Told] = {}
            for (done, hand), (cost, order) in best.items():
                for i in self.ready(done):
                    more, after = _after(hand, self.steps[i])
                    then, did = self._for_nothing(done | 1 << i, after)
                    told = cost + more, (*order, i, *did)
                    if then == self.whole:
                        finished = min(finished, told) if finished else told
                        continue
                    known = found.get((then, after))
                    if known is None or told < known:
                        found[then, after] = told
            limit = finished[0] if finished else bound or NO_LIMIT
            promising = [
                (told[0] + self._left(*state), -len(told[1]), state, told)
                for state, told in _undominated(found).items()
            ]
            kept = [p for p in promising if p[0] < limit]
            if len(kept) > width:
                is_exact = False
                kept = sorted(kept, key=lambda p: p[:2])[:width]
            best = {state: told for _, _, state, told in kept}
        return finished, is_exact


def _undominated(found: dict[State, Told]) -> dict[State, Told]:
    """Without states that are reached as cheaply by another with the same steps done, fetching what
    it has at hand.
    """
    by_done: dict[int, list[tuple[int, Hand]]] = {}
    for (done, hand), (cost, _) in found.items():
        by_done.setdefault(done, []).append((cost, hand))
    kept: dict[State, Told] = {}
    for state, told in found.items():
        same = by_done[state[0]]
        if len(same) == 1 or not any(
            c + _between(h, state[1]) <= told[0] and h != state[1] and c < told[0] for c, h in same
        ):
            kept[state] = told
    return kept
