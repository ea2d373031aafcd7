"""What a book, as it is written, knows of the things its templates speak of.

A book is not yet checked when its templates are filled: whatever is missing or odd here stands for
nothing, and the check of the book says so with its own path.
"""

from collections.abc import Iterable
from typing import Any

from flaneur.core.book.marks import TeethOff
from flaneur.core.wording import within

DRIVE_KINDS = (
    "chain", "belt", "eccentric", "guide", "arm", "shoe", "roller", "tensioner", "outer_tensioner", "phaser",
    "taper_phaser", "sprocket", "slotted_sprocket", "keyed_sprocket", "idler",
)  # fmt: skip
_NUMBERS = ["no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"]
_GROUPS = (
    "components", "phasers", "tensioners", "arms", "guides", "chains", "sprockets", "gears",
    "shafts", "marks", "tools",
)  # fmt: skip

LATE_KINDS = ("taper_phaser", "slotted_sprocket")

Raw = dict[str, Any]


def table(raw: Raw, key: str) -> Raw:
    """A mapping of a raw book; an empty one where there is none."""
    found = raw.get(key)
    return found if isinstance(found, dict) else {}


def strings(value: object) -> list[str]:
    """The strings of a list, or one string as a list of its own."""
    if isinstance(value, str):
        return [value]
    return [v for v in value if isinstance(v, str)] if isinstance(value, list) else []


def number_words(number: object) -> str:
    """A small count in words, a large one in figures."""
    if isinstance(number, int) and 0 <= number < len(_NUMBERS):
        return _NUMBERS[number]
    return str(number)


def joined(words: Iterable[str]) -> str:
    """Names one after another: “a”, “a and b”, “a, b and c”."""
    said = list(words)
    return " and ".join([", ".join(said[:-1]), said[-1]] if len(said) > 1 else said)


def said(text: str) -> str:
    """A phrase as it begins a sentence."""
    return text[:1].upper() + text[1:]


def with_article(name: str) -> str:
    """A part within a sentence: “the front cover”, but “cam cover A”, which is a name already."""
    last = name.split(" (")[0].split(" ")[-1]
    is_name = len(last) == 1 and last.isupper() and "," not in name
    return within(name) if is_name else f"the {within(name)}"


class BookFacts:
    """Facts of one raw book, by what they are of."""

    def __init__(self, raw: Raw) -> None:
        self.raw = raw
        self.components = {k: c for k, c in table(raw, "components").items() if isinstance(c, dict)}

    def entry(self, key: str) -> Raw:
        """Whatever the book calls by this id: a component by its own name or its part's."""
        for group in _GROUPS:
            found = table(self.raw, group).get(key)
            if isinstance(found, dict):
                return found
        return {}

    def name(self, key: str) -> str:
        """Name of anything in the book; a component without one is called as its part."""
        found = self.entry(key)
        if "name" not in found and isinstance(found.get("part"), str):
            return self.name(found["part"]) if found["part"] != key else self.part_name(key)
        return str(found.get("name", key))

    def part_name(self, key: str) -> str:
        """Name of a part of the drive, for a component that has the part's own id."""
        groups = _GROUPS[1:]
        found = (table(self.raw, g).get(key) for g in groups)
        return next((str(f["name"]) for f in found if isinstance(f, dict) and "name" in f), key)

    def kind(self, key: str) -> str | None:
        """The kind of a component."""
        return self.components.get(key, {}).get("kind")

    def drive(self) -> list[str]:
        """Components whose work needs the engine in its position."""
        return [k for k in self.components if self.kind(k) in DRIVE_KINDS]

    def covers(self, key: str) -> list[str]:
        """Covers that are off before a component comes off, whatever lies between."""
        found: list[str] = []
        pending, seen = [key], set[str]()
        while pending:
            here = pending.pop()
            for cover in strings(self.components.get(here, {}).get("covered_by")):
                if cover not in seen:
                    seen.add(cover)
                    pending.append(cover)
                    if self.kind(cover) == "cover":
                        found.append(cover)
        return [k for k in self.components if k in found]

    def chain_of(self, part: str) -> str | None:
        """The chain a part of the drive belongs to."""
        if part in table(self.raw, "chains"):
            return part
        arms = table(self.raw, "arms")
        for arm in arms.values():
            if isinstance(arm, dict) and arm.get("tensioner") == part:
                return arm.get("chain")
        face = {**table(self.raw, "guides"), **arms}.get(part)
        return face.get("chain") if isinstance(face, dict) else None

    def of_component(self, key: str) -> Raw:
        """All that is known of a component and of the part it stands for."""
        component = self.components.get(key, {})
        name = self.name(key)
        found: Raw = {"name": name, "the": with_article(name), "covers": self.covers(key)}
        bolts = [table(self.raw, "fasteners").get(f) for f in strings(component.get("fasteners"))]
        counts = [b.get("count") for b in bolts if isinstance(b, dict)]
        if counts and all(isinstance(c, int) for c in counts):
            found["bolts"] = sum(counts)
        part = component.get("part")
        if isinstance(part, str):
            found |= self._of_part(part)
        return found

    def _of_part(self, part: str) -> Raw:
        found: Raw = {"part": part}
        for key, chain in table(self.raw, "chains").items():
            if part in strings(table(table(self.raw, "chains"), key).get("loop")):
                if part in table(self.raw, "sprockets") and isinstance(chain, dict):
                    found["own_contacts"] = [self._contact(key, part)]
        chain = self.chain_of(part)
        if chain:
            found |= {"chain": chain, "chain_parts": self._parts_of_chain(chain)}
        if part in table(self.raw, "chains"):
            found |= self._of_chain(part)
        wheel = {**table(self.raw, "phasers"), **table(self.raw, "sprockets")}.get(part)
        shaft = wheel.get("shaft") if isinstance(wheel, dict) else None
        told = table(table(self.raw, "shafts"), shaft) if isinstance(shaft, str) else {}
        if told.get("kind") == "cam":
            found |= {"cam": shaft, "cam_the": with_article(str(told.get("name", shaft)))}
        face = {**table(self.raw, "guides"), **table(self.raw, "arms")}.get(part)
        if isinstance(face, dict):
            limit, liner = face.get("limit_wear_mm"), face.get("liner_mm")
            if isinstance(limit, int | float) and isinstance(liner, int | float):
                found |= {"limit": f"{limit:g}", "least": f"{liner - limit:g}"}
        tensioner = table(self.raw, "tensioners").get(part)
        if isinstance(tensioner, dict):
            found |= _of_tensioner(tensioner)
        return found

    def _parts_of_chain(self, chain: str) -> list[str]:
        """Components that must be on and tight before the chain is tensioned. A phaser on a taper is
        torqued afterwards.
        """
        wheels = strings(table(table(self.raw, "chains"), chain).get("loop"))
        shafts = {table(table(self.raw, "sprockets"), w).get("shaft") for w in wheels}

        def belongs(component: Raw) -> bool:
            part = component.get("part")
            if not isinstance(part, str) or component.get("kind") in LATE_KINDS:
                return False
            of_phaser = table(table(self.raw, "phasers"), part).get("shaft")
            own = table(self.raw, "tensioners").get(part) is not None
            return not own and (
                self.chain_of(part) == chain or part in wheels or (of_phaser is not None and of_phaser in shafts)
            )

        return [k for k, c in self.components.items() if belongs(c)]

    def _of_chain(self, key: str) -> Raw:
        chain = table(table(self.raw, "chains"), key)
        links = "teeth" if chain.get("type") == "toothed_belt" else "links"
        counts = [c for c in chain.get("counts") or [] if isinstance(c, dict)]
        told = [
            {
                "from": with_article(self.name(str(c.get("start")))),
                "to": with_article(self.name(str(c.get("end")))),
                "links": c.get("links"),
                "what": said(links),
            }
            for c in counts
        ]
        wheels = [s for s in strings(chain.get("loop")) if s in table(self.raw, "sprockets")]
        found: Raw = {
            "counts": told,
            "contacts": [self._contact(key, w) for w in wheels],
            "counts_said": joined(f"{c['links']} {links}" for c in told) if told else None,
            "driver_the": with_article(self.name(str(chain.get("driver")))),
        }
        arms = table(self.raw, "arms")
        arm = next((k for k, a in arms.items() if isinstance(a, dict) and a.get("chain") == key), 0)
        if arm:
            found["arm_the"] = with_article(str(arms[arm].get("name", arm)))
        return found

    def _contact(self, chain: str, wheel: str) -> Raw:
        marks = [
            m
            for m in table(self.raw, "marks").values()
            if isinstance(m, dict)
            and m.get("wheel") == wheel
            and m.get("is_timing", True)
            and not m.get("carried_by")
        ]
        shown = next((m for m in marks if m.get("form") != "keyway"), marks[0] if marks else None)
        name = shown.get("name") if shown else f"mark of {with_article(self.name(wheel))}"
        return {
            "contact": f"{chain}/{wheel}",
            "ask": f"Where does the {within(str(name))} stand?",
            "choices": [TeethOff.ON_MARK.words, TeethOff.LATE_1.words, TeethOff.EARLY_1.words],
        }

    def cautions(self, wanted: list[str]) -> list[str]:
        """Cautions that hold for this engine: none of valves where none can meet a piston."""
        never = table(self.raw, "clearance").get("interference") is False
        return [c for c in wanted if not (never and c == "interference")]

    def drive_words(self) -> Raw:
        """Phrases that are said only of an engine that has what they speak of."""
        found: Raw = {}
        if table(self.raw, "guides") or table(self.raw, "arms"):
            found["in_guides"] = "every chain in its guides"
        if table(self.raw, "tensioners"):
            found["pin_first"] = "pin the tensioner"
        return found

    def checks(self, names: object) -> list[Raw]:
        """Check positions to be read while turning: those named, or all."""
        positions = self.raw.get("check_positions")
        wanted = strings(names)
        return [
            {"code": f"check_{i + 1}", "ask": f"At {p.get('crank_deg')}°: {p.get('ask')}", **p}
            for i, p in enumerate(positions if isinstance(positions, list) else [])
            if isinstance(p, dict) and p.get("ask") and (not wanted or p.get("name") in wanted)
        ]


def _of_tensioner(tensioner: Raw) -> Raw:
    found: Raw = {"release_text": tensioner.get("release")}
    out, most = tensioner.get("book_plunger_mm"), tensioner.get("max_plunger_mm")
    if isinstance(out, int | float) and isinstance(most, int | float):
        found |= {
            "plunger": f"{out:g}",
            "plunger_least": max(0.0, round(0.5 * out, 1)),
            "plunger_most": round(out + 0.75 * (most - out), 1),
        }
    return found
