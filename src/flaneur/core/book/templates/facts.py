"""What a book, as it is written, knows of the things its templates speak of."""

from flaneur.core.book.marks import TeethOff
from flaneur.core.book.templates.raw import (
    Raw,
    entries,
    mappings,
    number,
    said,
    strings,
    table,
    with_article,
)
from flaneur.core.keys import CHECK_READ, MARK_READ
from flaneur.core.wording import joined, within

LATE_KINDS = ("taper_phaser", "slotted_sprocket")
DRIVE_KINDS = (
    *("chain", "belt", "guide", "arm", "shoe", "roller", "tensioner", "outer_tensioner"),
    *("eccentric", "phaser", "phaser_lockout", "sprocket", "keyed_sprocket", "idler"),
    *LATE_KINDS,
)
GROUPS = (
    *("components", "phasers", "tensioners", "arms", "guides", "chains", "sprockets", "gears"),
    *("shafts", "marks", "tools"),
)
# A plunger just let go stands between half its book extension and three quarters of what is left.
LEAST_OUT, MOST_OUT = 0.5, 0.75
SHOWN_AS_RIGHT = [t.words for t in (TeethOff.ON_MARK, TeethOff.LATE_1, TeethOff.EARLY_1)]


class BookFacts:
    """Facts of one raw book, by what they are of."""

    def __init__(self, raw: Raw) -> None:
        self.raw = raw
        self.groups = {group: entries(raw, group) for group in (*GROUPS, "fasteners")}
        self.components = self.groups["components"]
        self.chains = self.groups["chains"]
        self.sprockets = self.groups["sprockets"]
        self.phasers = self.groups["phasers"]
        self.arms = self.groups["arms"]
        self.faces = {**self.groups["guides"], **self.arms}

    def entry(self, key: str) -> Raw:
        """Whatever the book calls by this id: a component before the part it stands for."""
        found = (self.groups[group].get(key) for group in GROUPS)
        empty: Raw = {}
        return next((f for f in found if f), empty)

    def name(self, key: str) -> str:
        """Name of anything in the book; a component without one is called as its part."""
        found = self.entry(key)
        part = found.get("part")
        if "name" not in found and isinstance(part, str):
            named = (self.groups[g].get(part, {}).get("name") for g in GROUPS[1:])
            return next((str(n) for n in named if n), key)
        return str(found.get("name", key))

    def kind(self, key: str) -> str | None:
        """The kind of a component."""
        return self.components.get(key, {}).get("kind")

    def drive(self) -> list[str]:
        """Components whose work needs the engine in its position."""
        return [k for k in self.components if self.kind(k) in DRIVE_KINDS]

    def covers(self, key: str) -> list[str]:
        """Covers that are off before a component comes off, whatever lies between."""
        pending, seen = [key], set[str]()
        while pending:
            over = strings(self.components.get(pending.pop(), {}).get("covered_by"))
            pending += [cover for cover in over if cover not in seen]
            seen |= set(over)
        return [k for k in self.components if k in seen and self.kind(k) == "cover"]

    def are_toured(self, fasteners: list[str]) -> bool:
        """Whether any of these is only reached after turning the crank."""
        known = self.groups["fasteners"]
        return any("shows" in known.get(f, {}) for f in fasteners)

    def chain_of(self, part: str) -> str | None:
        """The chain a part of the drive belongs to."""
        if part in self.chains:
            return part
        own = next((a for a in self.arms.values() if a.get("tensioner") == part), None)
        return (own or self.faces.get(part, {})).get("chain")

    def of_component(self, key: str) -> Raw:
        """All that is known of a component and of the part it stands for."""
        component = self.components.get(key, {})
        found: Raw = {
            "name": self.name(key),
            "the": with_article(self.name(key)),
            "covers": self.covers(key),
        }
        fasteners = self.groups["fasteners"]
        used = strings(component.get("fasteners"))
        counts = [number(fasteners.get(f, {}).get("count")) for f in used]
        known = [int(c) for c in counts if c is not None]
        if known and len(known) == len(used):
            found["bolts"] = sum(known)
        part = component.get("part")
        return found | (self._of_part(part) if isinstance(part, str) else {})

    def _of_part(self, part: str) -> Raw:
        found: Raw = {"part": part}
        chain = self.chain_of(part)
        if chain:
            found |= {"chain": chain, "chain_parts": self._parts_of_chain(chain)}
        if part in self.chains:
            found |= self._of_chain(part)
        if part in self.sprockets:
            over = [k for k, c in self.chains.items() if part in strings(c.get("loop"))]
            found["own_contacts"] = [self._contact(k, part) for k in over]
        shaft = {**self.phasers, **self.sprockets}.get(part, {}).get("shaft")
        told = self.groups["shafts"].get(str(shaft), {})
        if told.get("kind") == "cam":
            found |= {"cam": shaft, "cam_the": with_article(str(told.get("name", shaft)))}
        face = self.faces.get(part, {})
        limit, liner = number(face.get("limit_wear_mm")), number(face.get("liner_mm"))
        if limit is not None and liner is not None:
            found |= {"limit": f"{limit:g}", "least": f"{liner - limit:g}"}
        return found | _of_tensioner(self.groups["tensioners"].get(part, {}))

    def _parts_of_chain(self, chain: str) -> list[str]:
        """Components that are on and torqued before the chain is tensioned; what sits on a taper or
        in slots is torqued afterwards.
        """
        wheels = strings(self.chains.get(chain, {}).get("loop"))
        shafts = {self.sprockets[w].get("shaft") for w in wheels if w in self.sprockets}

        def belongs(key: str) -> bool:
            part = self.components[key].get("part")
            if not isinstance(part, str) or self.kind(key) in LATE_KINDS:
                return False
            if part in self.phasers:
                return self.phasers[part].get("shaft") in shafts
            is_tensioner = part in table(self.raw, "tensioners")
            return not is_tensioner and (self.chain_of(part) == chain or part in wheels)

        return [key for key in self.components if belongs(key)]

    def _of_chain(self, key: str) -> Raw:
        chain = self.chains[key]
        links = "teeth" if chain.get("type") == "toothed_belt" else "links"
        told = [
            {
                "from": with_article(self.name(str(c.get("start")))),
                "to": with_article(self.name(str(c.get("end")))),
                "links": c.get("links"),
                "what": said(links),
            }
            for c in mappings(chain.get("counts"))
        ]
        wheels = [s for s in strings(chain.get("loop")) if s in self.sprockets]
        found: Raw = {
            "counts": told[:-1] if len(told) > 1 else told,  # the last follows from the others
            "contacts": [self._contact(key, w) for w in wheels],
            "counts_said": joined(f"{c['links']} {links}" for c in told) if told else None,
            "driver_the": with_article(self.name(str(chain.get("driver")))),
        }
        arm = next((a for a in self.arms.values() if a.get("chain") == key), None)
        return found | ({"arm_the": with_article(str(arm.get("name")))} if arm else {})

    def _contact(self, chain: str, wheel: str) -> Raw:
        """A contact with the mark that shows it, and the question for it."""
        marks = [
            m
            for m in self.groups["marks"].values()
            if m.get("wheel") == wheel and m.get("is_timing", True) and not m.get("carried_by")
        ]
        shown = next((m for m in marks if m.get("form") != "keyway"), marks[0] if marks else {})
        name = shown.get("name") or f"mark of {with_article(self.name(wheel))}"
        return {
            "contact": f"{chain}/{wheel}",
            "ask": f"Where does the {within(str(name))} stand?",
            "choices": SHOWN_AS_RIGHT,
        }

    def cautions(self, wanted: list[str]) -> list[str]:
        """Cautions that hold for this engine: none of valves where none can meet a piston."""
        never = table(self.raw, "clearance").get("interference") is False
        return [c for c in wanted if not (never and c == "interference")]

    def drive_words(self) -> Raw:
        """Phrases that are said only of an engine that has what they speak of."""
        found: Raw = {}
        if self.faces:
            found["in_guides"] = "every chain in its guides"
        if table(self.raw, "tensioners"):
            found["pin_first"] = "pin the tensioner"
        return found

    def marks_read(self, marks: list[str]) -> list[Raw]:
        """Marks that are read after turning, each asked by itself."""
        return [
            {
                "code": f"{MARK_READ}{mark}",
                "ask": f"Does the {within(self.name(mark))} stand where it belongs?",
            }
            for mark in marks
        ]

    def checks(self, names: object) -> list[Raw]:
        """Check positions to be read while turning: those named, or all."""
        wanted = strings(names)
        return [
            {**p, "code": f"{CHECK_READ}{i + 1}", "ask": f"At {p.get('crank_deg')}°: {p['ask']}"}
            for i, p in enumerate(mappings(self.raw.get("check_positions")))
            if p.get("ask") and (not wanted or p.get("name") in wanted)
        ]


def _of_tensioner(tensioner: Raw) -> Raw:
    """How it is let go, and between what its plunger stands then: never at its stop."""
    found: Raw = {"release_text": tensioner.get("release")}
    back = number(tensioner.get("port_back_deg"))
    if back is not None:
        found["port_back"] = f"{back:g}"
    out, most = number(tensioner.get("book_plunger_mm")), number(tensioner.get("max_plunger_mm"))
    if out is not None and most is not None:
        found |= {
            "plunger": f"{out:g}",
            "plunger_least": round(LEAST_OUT * out, 1),
            "plunger_most": round(out + MOST_OUT * (most - out), 1),
        }
    return found
