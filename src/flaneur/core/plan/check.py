"""Checks of a book's components: each can be reached, each part of the drive has one, the rules
leave an order of work, and no step of it does what its place in the order forbids.
"""

import math
from collections.abc import Iterator

from flaneur.core.book.check import Check
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.ways import on_ways
from flaneur.core.drive.train import DriveTrain
from flaneur.core.drive.turns import coming_back
from flaneur.core.drive.wearing import lift_mm, spare_mm
from flaneur.core.errors import PlanError
from flaneur.core.keys import StepRef, Verb
from flaneur.core.plan.access import closed_set
from flaneur.core.plan.ground import makers_word
from flaneur.core.plan.order import work_order
from flaneur.core.plan.position import Concern
from flaneur.core.plan.terms import term_checks
from flaneur.core.plan.walk import knows_positions, walker


def component_checks(book: EngineBook, is_sound: bool = True) -> Iterator[Check]:
    """One line for every drive part without component, one for each component that no order of work
    reaches, one for each step that is wrong where it stands (only where the drive ``is_sound``).
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
    yield from term_checks(book)
    everything = [k for k, c in book.components.items() if c.renewable]
    orders: dict[str, list[str]] = {}
    try:
        orders[""] = work_order(book, everything)
    except PlanError as error:
        yield Check(
            "components", f"their rules go round in a circle: {error.read}", error.expected, False
        )
        return
    for key in everything:
        try:
            orders[key] = work_order(book, [key])
        except PlanError as error:
            yield Check(
                f"components.{key}", f"cannot be reached: {error.read}", error.expected, False
            )
            continue
        off, on = f"remove:{key}" in orders[key], f"fit:{key}" in orders[key]
        covers = [c for c in closed_set(book, [key]) if f"remove:{c}" not in orders[key]]
        if not (off and on) or covers:
            yield Check(
                f"components.{key}",
                "its order of work leaves it out",
                "taken off and put on",
                False,
            )
    yield Check(
        "components",
        f"{len(orders) - 1} can be renewed, each by an order of work of its own",
        "every one reachable",
        len(orders) == len(everything) + 1,
    )
    if not is_sound:
        return
    yield from _lifting(book)
    if knows_positions(book):
        yield from _steps(book, list(orders.values()))
        yield from _turning(book)
        yield from _ways(book)


def _steps(book: EngineBook, orders: list[list[str]]) -> Iterator[Check]:
    """Each step's concerns along every order, each once; the maker's own word lets one stand."""
    walk, found = walker(book), dict[tuple[str, str], Concern]()
    steps = 0
    for order in orders:
        for walked in walk.walk(order):
            steps += 1
            for concern in walked.concerns:
                if not (concern.bends and makers_word(book, walked.ref)):
                    found.setdefault((concern.step, concern.kind), concern)
    for concern in found.values():
        path = _path(concern.step)
        yield Check(path, f"{concern.kind}: {concern.found}", _asked(concern), False)
    yield Check(
        "operations",
        f"{steps} steps of {len(orders)} plans walked, {len(found)} wrong where they stand",
        "none in which a valve can meet a piston, a mark is hidden, or a cover closes too early",
        not found,
    )


def _ways(book: EngineBook) -> Iterator[Check]:
    """Each way leads to all it serves, and no step on it is wrong where it stands."""
    for key, way in book.ways.items():
        there, path, wrong = on_ways(book, (key,)), f"ways.{key}", 0
        for part in way.serves:
            try:
                order = work_order(there, [part])
            except PlanError as error:
                wrong += 1
                yield Check(path, f"does not lead to {part}: {error.read}", error.expected, False)
                continue
            concerns = [
                c
                for walked in walker(there).walk(order)
                for c in walked.concerns
                if not (c.bends and makers_word(there, walked.ref))
            ]
            wrong += len(concerns)
            for c in concerns:
                where = f"{path}.{_path(c.step)}"
                yield Check(where, f"{c.kind}: {c.found}", _asked(c), False)
        yield Check(path, f"leads to {', '.join(way.serves)}", "each by a safe order", not wrong)


def _asked(concern: Concern) -> str:
    return f"{concern.expected}. {concern.way_out}"


def _path(ref: str) -> str:
    verb, key = StepRef.of(ref)
    if verb is Verb.OPERATION:
        return f"operations.{key}"
    return f"components.{key}.{'remove' if verb is Verb.REMOVE else 'fit'}"


def _lifting(book: EngineBook) -> Iterator[Check]:
    """A chain that comes off by itself is long enough to be lifted; otherwise what it runs over
    comes off with it.
    """
    train = DriveTrain(book)
    for key, component in book.components.items():
        if component.part not in train.chains:
            continue
        drive, wheels = train.chains[component.part], book.wheels_on(component.part)
        before = [*component.covered_by, *component.remove_after]
        if any(book.components[c].part in wheels for c in before):
            continue  # what it runs over is undone first and comes off with it
        gone = {book.components[c].part or "" for c in closed_set(book, before)}
        spare, needed = spare_mm(drive, gone), lift_mm(drive)
        yield Check(
            f"components.{key}",
            f"{spare:.1f} mm of the {drive.chain.name} to spare when it comes off",
            f"{needed:.1f} mm to lift it over the teeth; else a sprocket or phaser comes with it",
            spare >= needed,
        )


def _turning(book: EngineBook) -> Iterator[Check]:
    """Every check at another crank angle is read in some step, and the turns until coloured links
    come back are the engine's own.
    """
    read = {name for o in book.operations.values() for name in o.effects.checks}
    for i, position in enumerate(book.check_positions):
        if position.crank_deg != book.service_position.crank_deg:
            yield Check(
                f"check_positions.{i}",
                f"{position.name}, at {position.crank_deg:g}°, "
                + ("is read in a step" if position.name in read else "is read in no step"),
                "read while turning by hand: give it an ask",
                position.name in read,
            )
    turns = coming_back(DriveTrain(book))
    for key, operation in book.operations.items():
        said = operation.effects.coming_back
        if said is None:
            continue
        parts = {book.components[c].part for c in operation.needed_for}
        chains = [c for c in book.chains if c in parts and c in walker(book).timed]
        wanted = math.lcm(*(turns.chains[c] for c in chains))
        yield Check(
            f"operations.{key}.coming_back",
            f"{said} turns",
            f"{wanted} turns until its coloured links come back",
            said == wanted,
        )
