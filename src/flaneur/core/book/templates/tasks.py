"""One task filled from its template: words, observations, minutes, and what it does."""

from collections.abc import Mapping
from typing import Any, cast

from flaneur.core.book.marks import TeethOff
from flaneur.core.book.templates.facts import SHOWN_AS_RIGHT
from flaneur.core.book.templates.model import Template
from flaneur.core.book.templates.raw import Raw, mapping, number, strings
from flaneur.core.book.templates.words import Nothing, Words

LEAST_SPREAD, SPREAD = 1.0, 0.3
HOUR = 60.0


def filled_task(words: Words, template: Template, name: str) -> Raw:
    """A template's task with all its words filled, as a book would write it."""
    minutes = _minutes(words, template)
    return {
        "template": name,
        "text": words.sentences(template.text),
        "looks_right": words.first_said(template.right_when),
        "remedy": words.first_said(template.otherwise),
        "minutes": minutes,
        "spread_minutes": round(max(LEAST_SPREAD, SPREAD * minutes), 1),
        "waiting_minutes": _number(words, template.waiting)
        + HOUR * _number(words, template.waiting_hours),
        **({"bursts": template.bursts.model_dump()} if template.bursts else {}),
        "two_person": template.two_person,
        "tools": list(dict.fromkeys(words.filled(template.tools))),
        "cautions": words.facts.cautions(template.cautions),
        "supplies": words.filled(template.supplies),
        "observes": [o for raw in template.observe for o in _observations(words, raw)],
        "effects": words.filled(template.effects),
    }


def _number(words: Words, value: float | str) -> float:
    try:
        return number(words.filled(value)) or 0.0
    except Nothing:
        return 0.0


def _minutes(words: Words, template: Template) -> float:
    total = _number(words, template.minutes.base)
    for name, each in template.minutes.each.items():
        try:
            many: object = words.value(name)
        except Nothing:
            continue
        total += each * (
            len(cast("list[object]", many)) if isinstance(many, list) else number(many) or 0
        )
    return max(1.0, total)


def _observations(words: Words, raw: Mapping[str, Any]) -> list[Raw]:
    """One observation of a template as a book has it: none, one, or one for each of several."""
    kept = {k: v for k, v in raw.items() if k not in ("each", "when")}
    try:
        if "when" in raw:
            words.value(str(raw["when"]))
        if "each" not in raw:
            return [_observation(words, kept)]
        many: list[Raw] = words.value(str(raw["each"]))
    except Nothing:
        return []
    return [_observation(Words(words.facts, {**words.known, **one}), kept) for one in many]


def _observation(words: Words, raw: Raw) -> Raw:
    out: Raw = {}
    choices = mapping(raw.get("choices"))
    for key, value in raw.items():
        if key == "ask":
            out[key] = words.first_said(str(value))
        elif key not in ("choices", "right"):
            out[key] = words.filled(value)
    if raw.get("kind") == "mark":
        return {**out, "choices": SHOWN_AS_RIGHT, "right": [TeethOff.ON_MARK.words]}
    if choices:
        worded = {code: words.fill(str(said)) for code, said in choices.items()}
        right = [worded[code] for code in strings(raw.get("right"))]
        return {**out, "codes": list(worded), "choices": list(worded.values()), "right": right}
    return out
