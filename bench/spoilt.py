"""One thing wrong in a book: a rule left out, a mark turned, a length changed, an order turned."""

import copy
import random
from collections.abc import Callable
from typing import Any

Raw = dict[str, Any]
Spoil = Callable[[Raw, random.Random], str | None]
RULES = ("covered_by", "comes_with", "remove_after", "fit_after", "fasteners")
ORDERS = ("before", "after", "needed_for", "cams", "under", "marks", "closes", "phasers")


def spoilt(raw: Raw, rng: random.Random) -> tuple[Raw, str]:
    """A copy of a book with one thing wrong, and what it is."""
    while True:
        book = copy.deepcopy(raw)
        what = rng.choice(WAYS)(book, rng)
        if what:
            return book, what


def _rule(book: Raw, rng: random.Random) -> str | None:
    """A rule of a component is left out."""
    key, component = rng.choice(list(book["components"].items()))
    fields = [f for f in RULES if component.get(f)]
    if not fields:
        return None
    field = rng.choice(fields)
    gone = component[field].pop(rng.randrange(len(component[field])))
    return f"components.{key}.{field} without {gone}"


def _operation(book: Raw, rng: random.Random) -> str:
    """An operation is left out, and every reference to it."""
    key = rng.choice(list(book["operations"]))
    del book["operations"][key]
    for operation in book["operations"].values():
        for field in ("before", "after"):
            if field in operation:
                operation[field] = [r for r in operation[field] if r != f"op:{key}"]
    return f"operations without {key}"


def _order(book: Raw, rng: random.Random) -> str | None:
    """An entry of an operation's order, cams or covers is left out."""
    key, operation = rng.choice(list(book["operations"].items()))
    fields = [f for f in ORDERS if isinstance(operation.get(f), list) and operation[f]]
    if not fields:
        return None
    field = rng.choice(fields)
    gone = operation[field].pop(rng.randrange(len(operation[field])))
    return f"operations.{key}.{field} without {gone}"


def _reversed(book: Raw, rng: random.Random) -> str | None:
    """What comes before comes after."""
    key, operation = rng.choice(list(book["operations"].items()))
    before, after = operation.get("before", []), operation.get("after", [])
    if not before and not after:
        return None
    operation["before"], operation["after"] = after, before
    return f"operations.{key} before and after the wrong way round"


def _angle(book: Raw, rng: random.Random) -> str | None:
    """An operation turns to, or by, another angle."""
    found = [
        (k, f)
        for k, o in book["operations"].items()
        for f in ("at", "deg")
        if isinstance(o.get(f), int)
    ]
    if not found:
        return None
    key, field = rng.choice(found)
    by = rng.choice([-60, -25, 20, 35, 90, 180])
    value = book["operations"][key][field] + by
    book["operations"][key][field] = value % 720 if field == "at" else abs(value)
    return f"operations.{key}.{field} {by:+d}"


def _mark(book: Raw, rng: random.Random) -> str:
    """A sprocket's marked tooth stands elsewhere."""
    key, sprocket = rng.choice(list(book["sprockets"].items()))
    teeth = rng.choice([-3, -1, 1, 2, sprocket["teeth"] // 2])
    sprocket["mark_clock_deg"] += teeth * 360.0 / sprocket["teeth"]
    return f"sprockets.{key}.mark_clock_deg {teeth:+d} teeth"


def _hidden(book: Raw, rng: random.Random) -> str | None:
    """A mark lies behind another cover, or is carried by another part."""
    covers = [k for k, c in book["components"].items() if c.get("kind") == "cover"]
    key, mark = rng.choice(list(book["marks"].items()))
    if not mark.get("is_timing", True) or not covers:
        return None
    mark["behind"] = covers if mark.get("behind") == [] else []
    return f"marks.{key}.behind {mark['behind']}"


def _length(book: Raw, rng: random.Random) -> str:
    """A length, a number of links or a count is another one."""
    group, field, by = rng.choice(
        [
            ("chains", "links", rng.choice([-2, -1, 1, 2])),
            ("chains", "limit_elongation_pct", rng.choice([0.6, -0.2])),
            ("tensioners", "max_plunger_mm", rng.choice([-8, -5, 15])),
            ("tensioners", "book_plunger_mm", rng.choice([-2, 2, 4])),
            ("guides", "radius_mm", rng.choice([-20, 30])),
            ("arms", "limit_wear_mm", rng.choice([-2.5, 4])),
            ("guides", "limit_wear_mm", rng.choice([-2.5, 4])),
        ]
    )
    if not book.get(group):
        return _mark(book, rng)
    key, part = rng.choice(list(book[group].items()))
    part[field] = max(0.05, part[field] + by)
    return f"{group}.{key}.{field} {by:+g}"


def _count(book: Raw, rng: random.Random) -> str | None:
    """A count between two marks, or of fasteners, is one off."""
    found = [(k, i) for k, c in book["chains"].items() for i in range(len(c.get("counts") or []))]
    if not found or rng.random() < 0.3:
        key = rng.choice(list(book["fasteners"]))
        book["fasteners"][key]["count"] += 1
        return f"fasteners.{key}.count +1"
    key, i = rng.choice(found)
    book["chains"][key]["counts"][i]["links"] += rng.choice([-1, 1])
    return f"chains.{key}.counts.{i} one off"


def _tool(book: Raw, rng: random.Random) -> str | None:
    """A tool goes in elsewhere."""
    found = [k for k, t in book["tools"].items() if t.get("crank_deg") is not None]
    if not found:
        return None
    key, by = rng.choice(found), rng.choice([30, 90, 360])
    book["tools"][key]["crank_deg"] = (book["tools"][key]["crank_deg"] + by) % 720
    return f"tools.{key}.crank_deg {by:+d}"


WAYS: list[Spoil] = [
    *(_rule, _rule, _operation, _order, _order, _reversed, _angle),
    *(_mark, _hidden, _length, _length, _count, _tool),
]
