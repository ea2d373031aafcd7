"""Commands on an engine and what is known of it: its clearance, its plan."""

import argparse
import re

from flaneur.core.clearance.answer import clearance_answer
from flaneur.core.errors import BookError, PlanError
from flaneur.core.plan.plan import make_plan
from flaneur.formats.books import load_book


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
    plan = make_plan(book, scope)
    if options.json:
        print(plan.model_dump_json())
        return 0
    print(
        f"{len(plan.steps)} steps, {plan.minutes:.0f} min of work, {plan.waiting_minutes:.0f} min "
        "of waiting"
    )
    for i, step in enumerate(plan.steps, 1):
        print(f"{i:3} {step.ref:28} {step.title} ({step.why})")
        print(f"    {step.text}")
        for caution in step.cautions:
            print(f"    ! {caution}")
    return 0
