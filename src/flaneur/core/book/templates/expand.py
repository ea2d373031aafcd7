"""Filling the templates: a book that names them becomes a book that says every task in full."""

import re
from collections.abc import Mapping
from typing import Any

from flaneur.core.book.marks import TeethOff
from flaneur.core.book.templates.facts import (
    BookFacts,
    Raw,
    joined,
    number_words,
    said,
    strings,
    table,
    with_article,
)
from flaneur.core.book.templates.model import REQUIRED, Template, Templates, shipped
from flaneur.core.errors import Fault
from flaneur.core.wording import within

WORDS = {"text", "looks_right", "remedy", "name"}
TASK = {
    "text", "looks_right", "remedy", "minutes", "spread_minutes", "waiting_minutes", "two_person",
    "tools", "cautions", "observe", "observes", "supplies", "effects", "maker_touches", "template",
}  # fmt: skip
OPERATION = TASK | {"name", "and_for", "phase", "needed_for", "before", "after", "only_new"}
COMPONENT = {
    "name", "kind", "part", "price", "renewable", "one_use", "covered_by", "comes_with",
    "fasteners", "renew_with", "fit_after", "remove_after", "remove", "fit",
}  # fmt: skip
LEAST_SPREAD, SPREAD = 1.0, 0.3
_HOLE = re.compile(r"\{([A-Za-z_]+)\}")
_STAGE = re.compile(
    r"(?:(back) )?([0-9.]+) ?(?:(?:±|\+-) ?([0-9.]+) ?)?(Nm|°|deg)(?: ?(?:±|\+-) ?([0-9.]+))?"
)
TOLERANCE_SHARE, TOLERANCE_DEG = 0.08, 5.0


class Nothing(Exception):
    """A placeholder that stands for nothing."""


class Words:
    """What the placeholders of one task stand for: its parameters, then what the book knows."""

    def __init__(self, facts: BookFacts, known: Mapping[str, Any]) -> None:
        self.facts, self.known = facts, known

    def value(self, hole: str) -> Any:
        """What a placeholder stands for. Raises Nothing where it stands for nothing."""
        if hole in self.known:
            found = self.known[hole]
            if found is None or found == [] or found == "":
                raise Nothing(hole)
            is_worded = isinstance(found, str) and hole != "" and _HOLE.search(found)
            return self.fill(str(found)) if is_worded else found
        base, _, way = hole.rpartition("_")
        if base and way in _WAYS:
            return _WAYS[way](self, self.value(base))
        raise Nothing(hole)

    def _named(self, value: Any, how: Any) -> str:
        return joined(how(self.facts.name(v)) for v in strings(value))

    def first(self, value: Any, field: str) -> str:
        """A field of the first thing that these ids name."""
        ids = strings(value)
        found = self.facts.entry(ids[0]).get(field) if ids else None
        if not found:
            raise Nothing(field)
        return str(found)

    def fill(self, text: str) -> str:
        """A text with its placeholders filled."""

        def put(match: re.Match[str]) -> str:
            value = self.value(match[1])
            return joined(map(str, value)) if isinstance(value, list) else str(value)

        return _HOLE.sub(put, text)

    def filled(self, value: Any) -> Any:
        """Any value of a template: a lone placeholder keeps its type, lists are laid flat, and what
        stands for nothing is left out.
        """
        if isinstance(value, str):
            lone = _HOLE.fullmatch(value)
            if lone:
                return self.value(lone[1])
            filled = self.fill(value)
            return int(filled) if re.fullmatch(r"-[0-9]+", filled) else filled
        if isinstance(value, list):
            out: list[Any] = []
            for item in value:
                out += self.spread(item)
            return out
        if isinstance(value, dict):
            found: dict[Any, Any] = {}
            for key, item in value.items():
                try:
                    found[self.fill(key)] = self.filled(item)
                except Nothing:
                    continue
            return found
        return value

    def spread(self, item: Any) -> list[Any]:
        """An entry of a list, as many times as the ids in its placeholder."""
        try:
            hole = _HOLE.search(item) if isinstance(item, str) else None
            value = self.value(hole[1]) if hole else None
            if hole and isinstance(value, list):
                return [item.replace(hole[0], str(v)) for v in value]
            return [self.filled(item)]
        except Nothing:
            return []

    def sentences(self, pieces: list[str]) -> str:
        """Those sentences whose placeholders all stand for something."""
        found: list[str] = []
        for piece in pieces:
            try:
                found.append(self.fill(piece))
            except Nothing:
                continue
        return " ".join(found)

    def first_said(self, pieces: str) -> str:
        """The first of several wordings, parted by ``|``, that can be said."""
        for piece in pieces.split(" | "):
            try:
                return self.fill(piece)
            except Nothing:
                continue
        return pieces


_WAYS: dict[str, Any] = {
    "Said": lambda _w, v: said(str(v)),
    "within": lambda w, v: within(w.first(v, "name") if w.facts.entry(str(v)) else str(v)),
    "words": lambda _w, v: number_words(v),
    "Words": lambda _w, v: said(number_words(v)),
    "names": lambda w, v: w._named(v, within),
    "the": lambda w, v: w._named(v, with_article),
    "name": lambda w, v: w.first(v, "name") if not isinstance(v, list) else within(w.first(v, "name")),
    "text": lambda w, v: w.first(v, "text"),
}  # fmt: skip


def expand(raw: Raw, templates: Templates | None = None) -> tuple[Raw, list[Fault]]:
    """A raw book with every template filled in, and what its use of them lacks. A book without
    templates comes back as it is.
    """
    known = templates or shipped()
    facts = BookFacts(raw)
    faults: list[Fault] = []
    out = dict(raw)
    if isinstance(raw.get("fasteners"), dict):
        out["fasteners"] = {
            k: _with_stages(f, f"fasteners.{k}", faults) for k, f in raw["fasteners"].items()
        }
    if isinstance(raw.get("components"), dict):
        out["components"] = {
            k: _component(facts, known, k, c, faults) for k, c in raw["components"].items()
        }
    if isinstance(raw.get("operations"), dict):
        out["operations"] = {
            k: _operation(facts, known, k, o, faults) for k, o in raw["operations"].items()
        }
    if _uses_templates(raw):
        out["cautions"] = {**known.cautions, **table(raw, "cautions")}
    positions = raw.get("check_positions")
    if isinstance(positions, list):
        out["check_positions"] = [p for p in positions]
    return out, faults


def _uses_templates(raw: Raw) -> bool:
    return any(
        isinstance(entry, dict) and ("kind" in entry or "template" in entry)
        for group in ("components", "operations")
        for entry in table(raw, group).values()
    )


def _with_stages(fastener: Any, path: str, faults: list[Fault]) -> Any:
    """A fastener whose stages may be written short: ``60 Nm``, ``90 ± 5°``, ``back 90°``."""
    if not isinstance(fastener, dict) or not isinstance(fastener.get("stages"), list):
        return fastener
    stages: list[Any] = []
    for i, stage in enumerate(fastener["stages"]):
        if isinstance(stage, str):
            match = _STAGE.fullmatch(stage.strip())
            if not match:
                wanted = "such as 60 Nm, 24 ± 2 Nm, 90° or back 90°"
                faults.append(Fault(f"{path}.stages.{i}", f"“{stage}”", wanted))
                continue
            value, unit = float(match[2]), match[4]
            told = match[3] or match[5]
            if unit == "Nm":
                loose = float(told) if told else max(1.0, round(TOLERANCE_SHARE * value))
                stages.append({"kind": "torque", "value": value, "tolerance": loose})
            else:
                kind = "back_off" if match[1] else "angle"
                loose = float(told) if told else TOLERANCE_DEG
                stages.append({"kind": kind, "value": value, "tolerance": loose})
        else:
            stages.append(stage)
    return {**fastener, "stages": stages}


def _component(facts: BookFacts, known: Templates, key: str, raw: Any, faults: list[Fault]) -> Any:
    """A component with both of its tasks in full."""
    if not isinstance(raw, dict) or "kind" not in raw:
        return raw
    path, kind = f"components.{key}", known.parts.get(str(raw["kind"]))
    if kind is None:
        faults.append(
            Fault(f"{path}.kind", f"no kind is called {raw['kind']}", ", ".join(known.parts))
        )
        return raw
    out = {k: v for k, v in raw.items() if k in COMPONENT}
    out.setdefault("name", facts.name(key))
    given = {k: v for k, v in raw.items() if k not in COMPONENT}
    told = {**kind.remove.params, **kind.fit.params}
    for name in given:
        if name not in told:
            faults.append(Fault(f"{path}.{name}", "nothing asks for it", _asks(told, COMPONENT)))
    for field, template in (("remove", kind.remove), ("fit", kind.fit)):
        own = raw.get(field)
        context = {**facts.of_component(key), **_defaults(template), **given}
        for name, parameter in template.params.items():
            if parameter.default == REQUIRED and name not in given:
                faults.append(Fault(f"{path}.{name}", "missing", parameter.what))
        filled = _task(Words(facts, context), template, str(raw["kind"]))
        out[field] = {**filled, **(own if isinstance(own, dict) else {})}
        if isinstance(own, dict) and isinstance(own.get("effects"), dict):
            out[field]["effects"] = {**filled.get("effects", {}), **own["effects"]}
    return out


def _operation(facts: BookFacts, known: Templates, key: str, raw: Any, faults: list[Fault]) -> Any:
    """An operation in full: written on a template, or all by itself."""
    if not isinstance(raw, dict) or "template" not in raw:
        return raw
    path = f"operations.{key}"
    found = known.operations.get(str(raw["template"]))
    if found is None:
        faults.append(
            Fault(
                f"{path}.template",
                f"no template is called {raw['template']}",
                ", ".join(known.operations),
            )
        )
        return raw
    template = found.on_way(raw.get("how"))
    given = {k: v for k, v in raw.items() if k not in OPERATION}
    for name in given:
        if name not in template.params:
            faults.append(
                Fault(f"{path}.{name}", "nothing asks for it", _asks(template.params, OPERATION))
            )
    for name, parameter in template.params.items():
        if parameter.default == REQUIRED and name not in given:
            faults.append(Fault(f"{path}.{name}", "missing", parameter.what))
    of = given.get("of")
    part = facts.of_component(of) if isinstance(of, str) else {}
    context = {
        **part,
        **_defaults(template),
        **given,
        "drive": facts.drive(),
        "see_through": facts.covers(of) if isinstance(of, str) else [],
        **_worked_out(facts, given),
    }
    words = Words(facts, context)
    out = _task(words, template, str(raw["template"]))
    out["name"] = words.first_said(template.name)
    out["phase"] = template.phase
    out["only_new"] = template.only_new
    out["needed_for"] = words.filled(template.needed_for)
    for field in ("before", "after"):
        refs = _references(facts, key, words.filled(getattr(template, field)))
        out[field] = list(dict.fromkeys([*refs, *strings(raw.get(field))]))
    own = {k: v for k, v in raw.items() if k in OPERATION and k not in ("before", "after")}
    effects = {**out.get("effects", {}), **table(raw, "effects")}
    return {**out, **own, "effects": effects}


def _worked_out(facts: BookFacts, given: Raw) -> Raw:
    """What follows from parameters: the checks read while turning, a roll's sign and bounds."""
    found: Raw = dict(facts.drive_words())
    if "at" in given or "reads" in given:
        found["reads"] = facts.checks(given.get("reads"))
        found["reads_names"] = [c["name"] for c in found["reads"] if "name" in c]
    deg = given.get("deg")
    if isinstance(deg, int | float):
        back = given.get("way", "back") == "back"
        found |= {"by_deg": -deg if back else deg, "low": deg - 5.0, "high": float(deg)}
    marks = strings(given.get("marks"))
    if marks:
        found["mark_name"] = within(facts.name(marks[0]))
    return found


def _references(facts: BookFacts, key: str, wanted: list[Any]) -> list[str]:
    """References of a template as this book has them: ``op:`` and a template's name is every
    operation written on it; what the book does not have is left out.
    """
    operations = table(facts.raw, "operations")
    found: list[str] = []
    for reference in strings(wanted):
        verb, _, name = reference.partition(":")
        if verb == "op":
            same = [
                k
                for k, o in operations.items()
                if isinstance(o, dict) and o.get("template") == name
            ]
            found += [f"op:{k}" for k in (same or [name]) if k in operations and k != key]
        elif name in facts.components:
            bolted = bool(facts.components[name].get("fasteners"))
            found += [reference] if verb != "torque" or bolted else []
    return found


def _asks(params: Mapping[str, Any], own: set[str]) -> str:
    return ", ".join([*params, *sorted(own)])


def _defaults(template: Template) -> Raw:
    return {k: p.default for k, p in template.params.items() if p.default != REQUIRED}


def _task(words: Words, template: Template, name: str) -> Raw:
    """A template's task with all its words filled."""
    minutes = _minutes(words, template)
    effects: Raw = {}
    for key, value in template.effects.items():
        try:
            effects[key] = words.filled(value)
        except Nothing:
            continue
    waiting = _number(words, template.waiting) + 60 * _number(words, template.waiting_hours)
    return {
        "template": name,
        "text": words.sentences(template.text),
        "looks_right": words.first_said(template.right_when),
        "remedy": words.first_said(template.otherwise),
        "minutes": minutes,
        "spread_minutes": round(max(LEAST_SPREAD, SPREAD * minutes), 1),
        "waiting_minutes": waiting,
        "two_person": template.two_person,
        "tools": list(dict.fromkeys(words.filled(template.tools))),
        "cautions": words.facts.cautions(template.cautions),
        "supplies": words.filled(template.supplies),
        "observes": [o for raw in template.observe for o in _observations(words, raw)],
        "effects": effects,
    }


def _number(words: Words, value: float | str) -> float:
    try:
        found = words.filled(value)
    except Nothing:
        return 0.0
    return float(found) if isinstance(found, int | float) else 0.0


def _minutes(words: Words, template: Template) -> float:
    total = _number(words, template.minutes.base)
    for name, each in template.minutes.each.items():
        try:
            many = words.value(name)
        except Nothing:
            continue
        count = len(many) if isinstance(many, list) else many
        total += each * count if isinstance(count, int | float) else 0.0
    return max(1.0, total)


def _observations(words: Words, raw: Mapping[str, Any]) -> list[Raw]:
    """One observation of a template as a book has it: none, one, or one for each of several."""
    kept = {k: v for k, v in raw.items() if k not in ("each", "when")}
    try:
        if "when" in raw:
            words.value(str(raw["when"]))
        if "each" not in raw:
            return [_observation(words, kept)]
        many = words.value(str(raw["each"]))
    except Nothing:
        return []
    return [_observation(Words(words.facts, {**words.known, **one}), kept) for one in many]


def _observation(words: Words, raw: Mapping[str, Any]) -> Raw:
    out: Raw = {}
    for key, value in raw.items():
        if key == "ask":
            out[key] = words.first_said(str(value))
        elif key == "choices" and isinstance(value, dict):
            out |= {"codes": list(value), "choices": [words.fill(str(v)) for v in value.values()]}
        elif key != "right":
            out[key] = words.filled(value)
    if raw.get("kind") == "mark":
        out.setdefault("choices", [t.words for t in list(TeethOff)[:3]])
        out["right"] = [TeethOff.ON_MARK.words]
    elif "right" in raw and "choices" in raw:
        out["right"] = [words.fill(str(raw["choices"][code])) for code in strings(raw["right"])]
    return out
