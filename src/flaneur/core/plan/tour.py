"""A tour of the crank: fasteners that only show at some crank angles, worked one after another."""

from collections.abc import Sequence
from dataclasses import dataclass

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Shows
from flaneur.core.keys import StepRef, Verb
from flaneur.core.wording import joined

CYCLE_DEG, TURN_DEG = 720.0, 360.0
ONE_DEG = 0.5  # less is no turn to speak of


class Stop(BaseModel):
    """Where the tour stops: ``on_deg`` further than the stop before it, at ``crank_deg``, with the
    numbers (from 1) of the fasteners that show there.
    """

    model_config = ConfigDict(frozen=True)

    on_deg: float
    crank_deg: float
    bolts: list[int]


class Tour(BaseModel):
    """The shortest tour, forwards only from ``from_deg``: its stops, then ``on_deg`` further to
    where it ends.

    ``turned_deg`` is the whole of it; ``fastener`` is called by its id.
    """

    model_config = ConfigDict(frozen=True)

    fastener: str
    from_deg: float
    stops: list[Stop]
    on_deg: float
    turned_deg: float


@dataclass(frozen=True)
class _Window:
    """Where a fastener shows the first time, in degrees on from here, and where it shows best."""

    bolt: int
    opens: float
    shuts: float
    best: float


def shortest_tour(
    fastener: str, shows: Shows, from_deg: float, to_deg: float | None = None
) -> Tour:
    """Forwards only, every fastener worked on the first time it shows, with the fewest stops; each
    stop is where its fasteners show best.

    ``from_deg`` and ``to_deg`` are crank degrees of the cycle; without ``to_deg`` it ends at the
    last stop.
    """
    period = TURN_DEG if shows.every_turn else CYCLE_DEG
    windows = [
        _window(i, at, shows.window_deg, from_deg, period) for i, at in enumerate(shows.at_deg, 1)
    ]
    stops: list[Stop] = []
    came = 0.0
    for group in _stabbed(windows):
        opens, shuts = max(w.opens for w in group), min(w.shuts for w in group)
        wanted = sum(w.best for w in group) / len(group)
        here = min(max(wanted, opens), shuts)
        stops.append(
            Stop(
                on_deg=here - came,
                crank_deg=(from_deg + here) % CYCLE_DEG,
                bolts=sorted(w.bolt for w in group),
            )
        )
        came = here
    whole = came if to_deg is None else came + (to_deg - from_deg - came) % CYCLE_DEG
    return Tour(
        fastener=fastener,
        from_deg=from_deg,
        stops=stops,
        on_deg=whole - came,
        turned_deg=whole,
    )


def _window(bolt: int, at: float, half: float, start: float, period: float) -> _Window:
    best = (at - start) % period
    if best > period - half:  # it shows already, a little past its best
        return _Window(bolt, 0.0, best - period + half, 0.0)
    return _Window(bolt, max(0.0, best - half), best + half, best)


def _stabbed(windows: Sequence[_Window]) -> list[list[_Window]]:
    """Windows in groups that one stop serves: the fewest there can be, by who shuts first."""
    groups: list[list[_Window]] = []
    last = -1.0
    for window in sorted(windows, key=lambda w: (w.shuts, w.bolt)):
        if groups and window.opens <= last:
            groups[-1].append(window)
        else:
            groups.append([window])
            last = window.shuts
    return groups


def tour_of(book: EngineBook, ref: str, crank_deg: float | None) -> Tour | None:
    """The tour a step takes from where the crank stands before it; where nobody knows that, from
    where it is to end, which is found first. None for a step that takes none, or has no end either.
    """
    fastener = toured(book, ref)
    shows = book.fasteners[fastener].shows if fastener else None
    if fastener is None or shows is None:
        return None
    verb, key = StepRef.of(ref)
    to = book.operations[key].effects.crank_to_deg if verb is Verb.OPERATION else None
    begins = to if crank_deg is None else crank_deg
    return None if begins is None else shortest_tour(fastener, shows, begins, to)


def toured(book: EngineBook, ref: str) -> str | None:
    """The kind of fastener that a step works one by one as it shows: when it is torqued, or taken
    out in an operation of its own.
    """
    verb, key = StepRef.of(ref)
    if verb is Verb.OPERATION:
        return book.operations[key].effects.rounds
    return toured_of(book, key) if verb is Verb.TORQUE else None


def toured_of(book: EngineBook, component: str) -> str | None:
    """The fasteners of a component that only show at some crank angles: one kind at most."""
    used = book.components[component].fasteners
    return next((f for f in used if book.fasteners[f].shows is not None), None)


def lies_over(book: EngineBook, component: str, cover: str) -> bool:
    """Whether a cover hides the bolts of a component once it is on: what only tensions the chain
    does not hide those that are reached by turning it.
    """
    tensioning = book.components[cover].part in {*book.tensioners, *book.arms}
    return not (tensioning and toured_of(book, component))


def tour_words(tour: Tour) -> str:
    """The tour in sentences: which bolt shows where, and how far it is turned on to the next."""
    said = [
        f"{f'{stop.on_deg:.0f}° on' if stop.on_deg >= ONE_DEG else 'Here'}: "
        f"{'bolts' if len(stop.bolts) > 1 else 'bolt'} {joined(map(str, stop.bolts))}"
        for stop in tour.stops
    ]
    end = f". Then {tour.on_deg:.0f}° on" if tour.on_deg >= ONE_DEG else ""
    return f"From {tour.from_deg:.0f}°, forwards only. {'. '.join(said)}{end}."
