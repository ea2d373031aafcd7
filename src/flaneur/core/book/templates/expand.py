"""Filling the templates: a book that names them becomes a book that says every task in full."""

import re
from collections.abc import Mapping
from typing import TypeVar

from flaneur.core.book.tasks import Component, Operation
from flaneur.core.book.templates.facts import BookFacts
from flaneur.core.book.templates.model import REQUIRED, Parameter, Template, Templates, shipped
from flaneur.core.book.templates.raw import Raw, entries, mapping, number, strings, table
from flaneur.core.book.templates.tasks import filled_task
from flaneur.core.book.templates.ways import written_out
from flaneur.core.book.templates.words import Words
from flaneur.core.errors import Fault
from flaneur.core.wording import within

OPERATION, COMPONENT = frozenset(Operation.model_fields), frozenset(Component.model_fields)
_STAGE = re.compile(
    r"(?P<back>back )?(?P<value>[0-9.]+) ?(?:± ?(?P<loose>[0-9.]+) ?)?(?P<unit>Nm|°)"
)
TOLERANCE_SHARE, LEAST_TOLERANCE_NM, TOLERANCE_DEG = 0.08, 1.0, 5.0
ROLL_SHORT_DEG = 5.0
T = TypeVar("T")


def expand(raw: Raw, templates: Templates | None = None) -> tuple[Raw, list[Fault]]:
    """A raw book with every template filled in, in its ways too, and what its use of them lacks. A
    book without templates comes back as it is.
    """
    known = templates or shipped()
    out, faults = _filled(raw, known)
    if faults or not isinstance(raw.get("ways"), dict):
        return out, faults
    ways, lacking = written_out(raw, out, lambda other: _filled(other, known))
    return {**out, "ways": ways}, lacking


def _filled(raw: Raw, templates: Templates) -> tuple[Raw, list[Fault]]:
    filling = _Filling(raw, templates)
    out = {
        **raw,
        **{
            group: {k: fill(k, v) for k, v in table(raw, group).items()}
            for group, fill in (
                ("fasteners", filling.fastener),
                ("components", filling.component),
                ("operations", filling.operation),
            )
            if isinstance(raw.get(group), dict)
        },
    }
    if filling.is_templated:
        out["cautions"] = {**filling.known.cautions, **table(raw, "cautions")}
    return out, filling.faults


class _Filling:
    """One book on its way from its templates to its full words."""

    def __init__(self, raw: Raw, known: Templates) -> None:
        self.raw, self.known, self.facts = raw, known, BookFacts(raw)
        self.faults: list[Fault] = []
        self.is_templated = False

    def fastener(self, key: str, raw: object) -> object:
        """A fastener whose stages may be written short: ``60 Nm``, ``90 ± 5°``, ``back 90°``."""
        path, told = f"fasteners.{key}", self._stages(f"fasteners.{key}.stages", raw)
        variants = mapping(mapping(told).get("variants"))
        if not variants:
            return told
        read = {k: self._stages(f"{path}.variants.{k}.stages", v) for k, v in variants.items()}
        return {**mapping(told), "variants": read}

    def _stages(self, path: str, raw: object) -> object:
        told = mapping(raw)
        if not isinstance(told.get("stages"), list):
            return raw
        stages: list[object] = told["stages"]
        read = [self._stage(f"{path}.{i}", stage) for i, stage in enumerate(stages)]
        return {**told, "stages": read}

    def _stage(self, path: str, stage: object) -> object:
        if not isinstance(stage, str):
            return stage
        match = _STAGE.fullmatch(stage.strip())
        if not match:
            self.faults.append(
                Fault(path, f"“{stage}”", "such as 60 Nm, 24 ± 2 Nm, 90° or back 90°")
            )
            return stage
        value = float(match["value"])
        usual = max(LEAST_TOLERANCE_NM, round(TOLERANCE_SHARE * value))
        kind = "torque" if match["unit"] == "Nm" else "back_off" if match["back"] else "angle"
        loose = float(match["loose"] or (usual if kind == "torque" else TOLERANCE_DEG))
        return {"kind": kind, "value": value, "tolerance": loose}

    def component(self, key: str, raw: object) -> object:
        """A component with both of its tasks in full."""
        told = mapping(raw)
        if "kind" not in told:
            return raw
        path = f"components.{key}"
        kind = self._named(f"{path}.kind", told["kind"], self.known.parts)
        if kind is None:
            return raw
        out = {k: v for k, v in told.items() if k in COMPONENT}
        out.setdefault("name", self.facts.name(key))
        given = {k: v for k, v in told.items() if k not in COMPONENT}
        self._parameters(path, given, {**kind.remove.params, **kind.fit.params}, COMPONENT)
        for field, template in (("remove", kind.remove), ("fit", kind.fit)):
            known = {**self.facts.of_component(key), **_defaults(template), **given}
            filled = filled_task(Words(self.facts, known), template, str(told["kind"]))
            out[field] = _over(filled, table(told, field))
        return out

    def operation(self, key: str, raw: object) -> object:
        """An operation in full: written on a template, or all by itself."""
        told = mapping(raw)
        if "template" not in told:
            return raw
        path = f"operations.{key}"
        found = self._named(f"{path}.template", told["template"], self.known.operations)
        if found is None:
            return raw
        template = found.on_way(told.get("how"))
        given = {k: v for k, v in told.items() if k not in OPERATION}
        self._parameters(path, given, template.params, OPERATION)
        words = Words(self.facts, self._known(template, given))
        filled = filled_task(words, template, str(told["template"]))
        filled |= {
            "name": words.first_said(template.name),
            "phase": template.phase,
            "only_new": template.only_new,
            "needed_for": words.filled(template.needed_for),
        }
        own = {k: v for k, v in told.items() if k in OPERATION}
        for field in ("before", "after"):
            refs = self._references(key, strings(words.filled(getattr(template, field))))
            own[field] = list(dict.fromkeys([*refs, *strings(told.get(field))]))
        return _over(filled, own)

    def _named(self, path: str, name: object, among: Mapping[str, T]) -> T | None:
        """What a book names, of a kind or a template; None, and noted, for none of that name."""
        self.is_templated = True
        found = among.get(str(name))
        if found is None:
            self.faults.append(Fault(path, f"nothing is called {name}", ", ".join(among)))
        return found

    def _known(self, template: Template, given: Raw) -> Raw:
        """What an operation's placeholders stand for."""
        of = given.get("of")
        part = self.facts.of_component(of) if isinstance(of, str) else {}
        known: Raw = {**part, **_defaults(template), **given, **self.facts.drive_words()}
        known["drive"] = self.facts.drive()
        if "reads" in template.params:
            checks = self.facts.checks(given.get("reads"))
            known |= {"reads": checks, "reads_names": [str(c.get("name")) for c in checks]}
        deg = number(given.get("deg"))
        if deg is not None:
            signed = deg if given.get("way") == "on" else -deg
            known |= {"by_deg": signed, "low": deg - ROLL_SHORT_DEG, "high": deg}
        marks = strings(given.get("marks"))
        if not marks:
            return known
        read = self.facts.marks_read(marks)
        return known | {"mark_name": within(self.facts.name(marks[0])), "marks_read": read}

    def _references(self, key: str, wanted: list[str]) -> list[str]:
        """References of a template as this book has them: ``op:`` and a template's name is every
        operation written on it; what the book does not have is left out.
        """
        operations = entries(self.raw, "operations")
        found: list[str] = []
        for reference in wanted:
            verb, _, name = reference.partition(":")
            if verb == "op":
                same = [k for k, o in operations.items() if o.get("template") == name]
                found += [f"op:{k}" for k in same or [name] if k in operations and k != key]
            elif name in self.facts.components:
                bolts = strings(self.facts.components[name].get("fasteners"))
                if verb == "torque" and self.facts.are_toured(bolts):
                    found.append(f"fit:{name}")  # torqued once its chain is taut
                else:
                    found += [reference] if verb != "torque" or bolts else []
        return found

    def _parameters(
        self, path: str, given: Raw, asked: Mapping[str, Parameter], own: frozenset[str]
    ) -> None:
        """Note what is said and nothing asks for, and what is asked for and not said."""
        for name in given:
            if name not in asked:
                wanted = ", ".join([*asked, *sorted(own)])
                self.faults.append(Fault(f"{path}.{name}", "nothing asks for it", wanted))
        for name, parameter in asked.items():
            if parameter.default == REQUIRED and name not in given:
                self.faults.append(Fault(f"{path}.{name}", "missing", parameter.what))


def _defaults(template: Template) -> Raw:
    return {k: p.default for k, p in template.params.items() if p.default != REQUIRED}


def _over(filled: Raw, own: Raw) -> Raw:
    """A filled task with what the book says over it; effects are said one by one."""
    effects = {**table(filled, "effects"), **table(own, "effects")}
    return {**filled, **own, "effects": effects}
