"""Checks of a book's components: each can be reached, each part of the drive has one, the rules
leave an order of work.
"""

from collections.abc import Iterator

from flaneur.core.book.check import Check
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import PlanError
from flaneur.core.plan.access import closed_set
from flaneur.core.plan.order import work_order


def component_checks(book: EngineBook) -> Iterator[Check]:
    """One line for every drive part without component, one for each component that no order of work
    reaches.
    """
    stands_for = {c.part for c in book.components.values()}
    for group in ("chains", "guides", "arms", "tensioners", "phasers"):
        for key, part in getattr(book, group).items():
            if key not in stands_for:
                yield Check(
                    f"{group}.{key}",
                    f"no component stands for the {part.name}",
                    "a component with part: " + key,
                    False,
                )
    everything = [k for k, c in book.components.items() if c.renewable]
    try:
        work_order(book, everything)
    except PlanError as error:
        yield Check(
            "components", f"their rules go round in a circle: {error.read}", error.expected, False
        )
        return
    reachable = 0
    for key, component in book.components.items():
        if not component.renewable:
            continue
        try:
            order = work_order(book, [key])
        except PlanError as error:
            yield Check(
                f"components.{key}", f"cannot be reached: {error.read}", error.expected, False
            )
            continue
        off, on = f"remove:{key}" in order, f"fit:{key}" in order
        covers = [c for c in closed_set(book, [key]) if f"remove:{c}" not in order]
        if not (off and on) or covers:
            yield Check(
                f"components.{key}",
                "its order of work leaves it out",
                "taken off and put on",
                False,
            )
        else:
            reachable += 1
    yield Check(
        "components",
        f"{reachable} can be renewed, each by an order of work of its own",
        "every one reachable",
        True,
    )
