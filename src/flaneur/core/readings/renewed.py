"""What was put in before: parts that earlier jobs on the same engine renewed, and how long ago."""

from collections.abc import Iterable, Sequence

from flaneur.core.book.schema import EngineBook
from flaneur.core.readings.tests import Replaced


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
