"""Words of the trade that only some engines have anything to do with."""

import re
from collections.abc import Callable, Iterator

from flaneur.core.book.check import Check
from flaneur.core.book.revised import revised_bolts
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Task

Has = Callable[[EngineBook], bool]
CAM_COVER = re.compile(r"\bcam cover\b", re.I)
TERMS: list[tuple[re.Pattern[str], str, Has]] = [
    (re.compile(r"\bphasers?\b", re.I), "a phaser", lambda b: bool(b.phasers)),
    (
        re.compile(r"(?<!belt )\b(tensioner|plunger)s?\b", re.I),
        "a tensioner",
        lambda b: bool(b.tensioners),
    ),
    (
        re.compile(r"\bguides?\b(?! pulley)", re.I),
        "a guide or arm",
        lambda b: bool(b.guides or b.arms),
    ),
    (
        re.compile(r"\bcoloured links?\b", re.I),
        "coloured links",
        lambda b: any(c.marked_links for c in b.chains.values()),
    ),
    (
        re.compile(r"\b(locking pin|crank pin|crank stop|crank peg)\b", re.I),
        "a tool that locks the crank",
        lambda b: any(b.shafts[s].kind == "crank" for t in b.tools.values() for s in t.holds),
    ),
    (
        CAM_COVER,
        "a cam cover",
        lambda b: any(CAM_COVER.search(c.name) for c in b.components.values()),
    ),
]
BOLTS = re.compile(r"\bbolts?\b", re.I)
LOOSED = re.compile(r"\b(bolts? out|undo|torque)\b", re.I)


def term_checks(book: EngineBook) -> Iterator[Check]:
    """One line for each text that speaks of what this engine does not have."""
    for path, text in _texts(book):
        for pattern, what, has in TERMS:
            found = pattern.search(text)
            if found and not has(book):
                yield Check(
                    path,
                    f"speaks of “{found[0]}”",
                    f"words of this engine: it has not {what}",
                    False,
                )
    for key, component in book.components.items():
        if not component.fasteners:
            for field, task in (("remove", component.remove), ("fit", component.fit)):
                if BOLTS.search(task.text) and LOOSED.search(task.text):
                    yield Check(
                        f"components.{key}.{field}",
                        "undoes bolts, and the component names no fasteners",
                        "its fasteners, or other words",
                        False,
                    )
        sprocket = book.sprockets.get(component.part or "")
        if (
            sprocket
            and sprocket.fixed_by == "key"
            and component.fasteners
            and not _is_driven(book, component.part)
        ):
            yield Check(
                f"components.{key}.fasteners",
                f"bolts for {sprocket.name}, which sits on a key",
                "none: a keyed crank sprocket has no bolt of its own",
                False,
            )
    used = {f for c in book.components.values() for f in c.fasteners}
    used |= {f for key in book.components for f in revised_bolts(book, key)}
    for key in book.fasteners:
        if key not in used:
            yield Check(
                f"fasteners.{key}", "no component uses them", "a component's fasteners", False
            )


def _is_driven(book: EngineBook, part: str | None) -> bool:
    """Whether a sprocket is driven: only one on the crank needs no bolt of its own."""
    return part is not None and book.shafts[book.sprockets[part].shaft].kind != "crank"


def _texts(book: EngineBook) -> Iterator[tuple[str, str]]:
    def of(path: str, task: Task) -> Iterator[tuple[str, str]]:
        yield path, " ".join([task.text, task.looks_right, task.remedy])

    for key, component in book.components.items():
        yield from of(f"components.{key}.remove", component.remove)
        yield from of(f"components.{key}.fit", component.fit)
    for key, operation in book.operations.items():
        yield from of(f"operations.{key}", operation)
    for key, fastener in book.fasteners.items():
        yield f"fasteners.{key}", fastener.note or ""
