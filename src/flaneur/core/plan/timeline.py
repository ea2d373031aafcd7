"""When each step begins, minutes from the plan's start: one after another, waits in parallel."""

from collections.abc import Mapping, Sequence

import networkx as nx
from pydantic import BaseModel, ConfigDict


class Stretch(BaseModel):
    """A stretch of work for two: from its first step to its last, minutes from the start."""

    model_config = ConfigDict(frozen=True)

    begins: float
    minutes: float
    steps: list[str]


def begins_of(
    graph: "nx.DiGraph[str]", order: Sequence[str], work: Mapping[str, tuple[float, float]]
) -> tuple[dict[str, float], float]:
    """Start of each step, and when the last of them is over, waiting included. ``work`` gives each
    step's working and waiting minutes; a step waits for what it rests on, not for other waits.
    """
    over: dict[str, float] = {}
    begins: dict[str, float] = {}
    free = 0.0
    for ref in order:
        rests_on: set[str] = nx.ancestors(graph, ref)  # pyright: ignore[reportUnknownMemberType]
        begins[ref] = max([free, *(over[p] for p in rests_on if p in over)])
        free = begins[ref] + work[ref][0]
        over[ref] = free + work[ref][1]
    return begins, max(over.values(), default=0.0)


def stretches(
    order: Sequence[str],
    two: Mapping[str, bool],
    begins: Mapping[str, float],
    minutes: Mapping[str, float],
) -> list[Stretch]:
    """Stretches in which a second person is needed."""
    found: list[list[str]] = []
    was_two = False
    for ref in order:
        if two[ref]:
            if was_two:
                found[-1].append(ref)
            else:
                found.append([ref])
        was_two = two[ref]
    return [
        Stretch(
            begins=begins[s[0]],
            minutes=begins[s[-1]] + minutes[s[-1]] - begins[s[0]],
            steps=s,
        )
        for s in found
    ]
