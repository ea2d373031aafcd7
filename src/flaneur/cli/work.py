"""Commands on an engine and what is known of it: its clearance, its plan."""

import argparse
import json
import re
from datetime import datetime
from pathlib import Path
from typing import cast

from pydantic import ValidationError

from flaneur.core.clearance.answer import clearance_answer
from flaneur.core.decision.rates import Rates
from flaneur.core.errors import BookError, PlanError
from flaneur.core.job.whole_plan import whole_plan
from flaneur.core.stores.lists import LINES, ListKind, ListLine, Stores
from flaneur.formats.books import load_book
from flaneur.formats.lists import ListRefused, check_once, read_list


def clearance(options: argparse.Namespace) -> int:
    """Where valves can touch, and how far the crank may turn."""
    book = load_book(options.engine)
    tooth: tuple[str, int] | None = None
    if options.teeth:
        contact, _, teeth = options.teeth.partition("=")
        if not re.fullmatch(r"[-+]?[1-9]|[-+]?1[0-2]", teeth):
            raise BookError(
                "Teeth are read as CONTACT=NUMBER.",
                read=options.teeth,
                expected="such as chain_a/cam_a_in=-1, late positive",
            )
        tooth = (contact, int(teeth))
    names = [tuple(filter(None, text.split(","))) for text in (options.off, options.held)]
    answer = clearance_answer(book, options.crank, names[0], names[1], options.parked, tooth)
    if options.json:
        print(answer.model_dump_json())
        return 0
    print(answer.words)
    for view in answer.ranges:
        print(f"{view.name} off at {view.crank_deg:g}°: {view.words}.")
        print("\n".join(f"  {swing.name}: {swing.words}." for swing in view.swings))
    if answer.teeth_off:
        print("\n".join([*answer.teeth_off.bent, *answer.teeth_off.clear]))
    if answer.reserve:
        print(f"Reserve: {answer.reserve.words}.")
    return 0


def plan(options: argparse.Namespace) -> int:
    """Steps of a repair."""
    book = load_book(options.engine)
    scope = [part for part in options.scope.split(",") if part]
    if not scope:
        raise PlanError(
            "Nothing is chosen to be renewed.",
            expected=f"components of {book.name}: "
            + ", ".join(k for k, c in book.components.items() if c.renewable),
        )
    ways = _ways(options.ways) if options.ways else []
    plan = whole_plan(
        book,
        scope,
        options.today or datetime.now().astimezone().date(),
        ways=ways,
        kit=options.kit,
        now=options.now,
        lean_deg=options.lean,
        stores=_stores(options.stores) if options.stores else None,
        rates=_rates(options.rates) if options.rates else None,
    )
    if options.json:
        print(plan.model_dump_json())
        return 0
    print(f"{plan.road.name}. {plan.position.words}")
    print(
        f"{len(plan.steps)} steps, {plan.minutes:.0f} min of work, {plan.waiting_minutes:.0f} min "
        "of waiting"
    )
    for stretch in plan.helper:
        print(f"A second person after {stretch.begins:.0f} min, for {stretch.minutes:.0f} min")
    for road in plan.roads.roads:
        risk = "; ".join(f"{d.chance:.0%}: {d.what}" for d in road.dangers)
        print(f"  {road.name} ({','.join(road.ways)}): {road.minutes:.0f} min. {risk}")
    print(
        f"Altogether {plan.estimate.price:.2f}; can begin: {plan.at_hand.starts_on or 'not known'}"
    )
    for i, step in enumerate(plan.steps, 1):
        print(f"{i:3} {step.ref:28} {step.title} ({step.why})")
        print(f"    {step.text}")
        for caution in step.cautions:
            print(f"    ! {caution}")
    return 0


def _stores(folder: Path) -> Stores:
    """The lists of a folder; one that is not there is kept by nobody. Raises ListRefused."""
    found: dict[str, list[ListLine]] = {}
    for kind in ListKind:
        path = folder / f"{kind}.csv"
        if path.exists():
            lines = read_list(path.read_text(encoding="utf-8"), LINES[kind], str(kind))
            check_once(lines, kind)
            found[str(kind)] = lines
    if not found:
        raise ListRefused(
            "The folder has none of the shop's lists.",
            read=str(folder),
            expected=", ".join(f"{kind}.csv" for kind in ListKind),
        )
    return Stores.model_validate(found)


def _rates(path: Path) -> Rates:
    """The shop's rates. Raises PlanError."""
    try:
        return Rates.model_validate_json(path.read_text(encoding="utf-8"))
    except (OSError, ValidationError) as error:
        raise PlanError(
            "The rates cannot be read.",
            read=str(error).splitlines()[0],
            expected='JSON such as {"labour_per_h": 80}',
        ) from error


def _ways(path: Path) -> list[str]:
    """Ways named in a file: a JSON list, or an object with one under ``ways``."""
    try:
        told: object = json.loads(path.read_text(encoding="utf-8"))
    except (OSError, ValueError) as error:
        raise PlanError(
            "The ways cannot be read.",
            read=f"{path.name}: {error}"[:160],
            expected='JSON such as ["in_place_a"] or {"ways": ["in_place_a"]}',
        ) from error
    if isinstance(told, dict):
        told = cast("dict[str, object]", told).get("ways")
    found = cast("list[object]", told) if isinstance(told, list) else None
    if found is None or not all(isinstance(way, str) for way in found):
        raise PlanError(
            "The ways cannot be read.",
            read=path.name,
            expected='JSON such as ["in_place_a"] or {"ways": ["in_place_a"]}',
        )
    return [str(way) for way in found]
