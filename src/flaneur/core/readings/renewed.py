"""What was put in before: parts that earlier jobs on the same engine renewed, or that were said at
intake to have been, and how long ago.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import cast

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import ReadingError
from flaneur.core.readings.tests import Replaced


@dataclass(frozen=True)
class Replaceable:
    """What may be said to have been replaced, of one drive: a name, and the parts it stands for."""

    of: str
    name: str
    parts: tuple[str, ...]


def replaceable(book: EngineBook) -> list[Replaceable]:
    """What an intake asks of earlier work, drive by drive in book order, then the phasers."""
    found: list[Replaceable] = []
    for key, chain in book.chains.items():
        arm = book.arm_of(key)
        faces = [k for k, guide in book.guides.items() if guide.chain == key]
        faces += [k for k, guide in book.arms.items() if guide.chain == key]
        is_belt = chain.type == "toothed_belt"
        found.append(Replaceable(chain.name, "belt" if is_belt else "chain", (key,)))
        if faces:
            named = "guides and arm" if arm else "guides"
            found.append(Replaceable(chain.name, named, tuple(faces)))
        if arm:
            found.append(Replaceable(chain.name, "tensioner", (book.arms[arm].tensioner,)))
    found += [Replaceable("Phasers", p.name, (key,)) for key, p in book.phasers.items()]
    return found


def check_replaced(
    book: EngineBook, parts: Iterable[str], hours: float | None, then: float | None
) -> None:
    """Raise ReadingError for a part that is none of this engine's, or one put in later than now."""
    known = {part for each in replaceable(book) for part in each.parts}
    strange = sorted(set(parts) - known)
    if strange:
        raise ReadingError(
            "This engine has no such part to be replaced.",
            read=", ".join(strange)[:120],
            expected=", ".join(sorted(known)),
            field="replaced_parts",
        )
    if hours is not None and then is not None and then > hours:
        raise ReadingError(
            "That is more than the engine has run.",
            read=f"{then:g} h then, {hours:g} h now",
            expected="the running hours it had when the parts were put in",
            advice="Put one of the two right.",
            field="replaced_at",
        )


def told_replaced(
    book: EngineBook, intake: Mapping[str, object], hours: float | None
) -> list[Replaced]:
    """Parts that were said at intake to have been replaced. Where hours are not known, now and
    then, nothing is said.
    """
    then = intake.get("replaced_at_h")
    if hours is None or not isinstance(then, int | float) or not 0 <= then <= hours:
        return []
    said, known = _said(intake), [part for each in replaceable(book) for part in each.parts]
    return [
        Replaced(kind="replaced", part=part, hours_ago=hours - then)
        for part in known
        if part in said
    ]


def _said(intake: Mapping[str, object]) -> set[str]:
    """Parts that were marked at intake, whatever else may be kept there."""
    parts = intake.get("replaced_parts")
    return set(map(str, cast(list[object], parts))) if isinstance(parts, list | tuple) else set()


def replaced_words(book: EngineBook, intake: Mapping[str, object]) -> str:
    """What was said to have been replaced, and when; empty where nothing was."""
    said, then = _said(intake), intake.get("replaced_at_h")
    named = [f"{r.of}: {r.name}" for r in replaceable(book) if said & set(r.parts)]
    if not named:
        return ""
    at = f" at {then:g} h" if isinstance(then, int | float) else ", hours not known"
    return "; ".join(named) + at


def latest(told: Iterable[Replaced]) -> list[Replaced]:
    """The latest word of each part: what was put in last is what is in it."""
    found: dict[str, Replaced] = {}
    for each in told:
        if each.part not in found or each.hours_ago < found[each.part].hours_ago:
            found[each.part] = each
    return list(found.values())


def renewed_before(
    book: EngineBook, hours: float | None, earlier: Iterable[tuple[float | None, Sequence[str]]]
) -> list[Replaced]:
    """Parts as diagnosis takes them, of jobs in the order they were signed: each with the running
    hours it was done at and the components it renewed. Where hours are not known on both sides,
    nothing is said.
    """
    found: dict[str, float] = {}
    wearing = {*book.chains, *book.guides, *book.arms, *book.tensioners, *book.phasers}
    for then, components in earlier:
        if hours is None or then is None or then > hours:
            continue
        for key in components:
            component = book.components.get(key)
            if component is not None and component.part in wearing:
                found[component.part] = hours - then
    return [Replaced(kind="replaced", part=part, hours_ago=ago) for part, ago in found.items()]
