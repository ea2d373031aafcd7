"""Ways of a book as they are written: what they say is laid over the book and filled with it, and
what then differs is kept.
"""

from collections.abc import Callable

from flaneur.core.book.templates.raw import Raw, mapping, strings, table
from flaneur.core.errors import Fault

GROUPS = ("components", "operations")
NESTED = ("remove", "fit", "effects")


def written_out(
    raw: Raw, whole: Raw, fill: Callable[[Raw], tuple[Raw, list[Fault]]]
) -> tuple[Raw, list[Fault]]:
    """Every way with its components and operations in full. ``whole`` is the book without ways as
    it was filled, ``fill`` fills another.
    """
    found: Raw = {}
    faults: list[Fault] = []
    for key, value in table(raw, "ways").items():
        way = mapping(value)
        without = set(strings(way.get("without")))
        laid: Raw = {k: v for k, v in raw.items() if k != "ways"}
        for group in GROUPS:
            laid[group] = _over(table(raw, group), table(way, group))
        laid["operations"] = {k: v for k, v in laid["operations"].items() if k not in without}
        filled, lacking = fill(laid)
        faults += [f._replace(path=f"ways.{key}.{f.path}") for f in lacking]
        other = {
            group: {
                k: v for k, v in table(filled, group).items() if v != table(whole, group).get(k)
            }
            for group in GROUPS
        }
        found[key] = {**way, **other}
    return found, faults


def _over(base: Raw, over: Raw) -> Raw:
    """Entries of a book with those of a way laid over them; a field that is said to be null is
    gone.
    """
    laid = {key: _laid(mapping(base.get(key)), mapping(value)) for key, value in over.items()}
    told = {key: {k: v for k, v in entry.items() if v is not None} for key, entry in laid.items()}
    return {**base, **told}


def _laid(own: Raw, said: Raw) -> Raw:
    """One entry over another, tasks and what they do field by field."""
    inner = {k: _laid(table(own, k), table(said, k)) for k in NESTED if k in own and k in said}
    return {**own, **said, **inner}
