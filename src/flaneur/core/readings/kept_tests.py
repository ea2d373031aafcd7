"""Worksheets as they are kept, as the tests diagnosis takes."""

from collections.abc import Callable, Sequence
from typing import Any, Protocol

from pydantic import TypeAdapter

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import FlaneurError
from flaneur.core.measuring.hands import Feel, Slack, TensionerBy, ToolFit
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.measuring.looks import AT_BANK, Amount, BeltOff, Level, Look, NoiseAt, NoiseWhen
from flaneur.core.measuring.sheets import sheet_of
from flaneur.core.measuring.worksheet import WHOLE, Filled
from flaneur.core.readings import tests as t
from flaneur.core.readings.tests import AnyTest

LEAST_DEG, MOST_S = 0.05, 3600.0
FITS = {ToolFit.SLIDES: "slides_on", ToolFit.STARTS: "starts", ToolFit.NOT_AT_ALL: "does_not_start"}
FEELS = {
    Feel.FIRM: "firm",
    Feel.SPRINGY: "springy",
    Feel.AT_ONCE: "sinks",
    Feel.SEIZED: "seized",
}
LOOKS = {
    Look.WHOLE: "sound",
    Look.GROOVED: "worn",
    Look.BROKEN: "broken",
    Look.MISSING: "missing",
    Look.CHAIN_BESIDE: "chain_off",
    Look.HOOKED: "teeth_hooked",
    Look.NOT_SEEN: "not_seen",
}
WHENS = {
    NoiseWhen.COLD_START: "cold_start",
    NoiseWhen.HOT_IDLE: "hot_idle",
    NoiseWhen.REV_UP: "under_load",
    NoiseWhen.LOAD: "under_load",
    NoiseWhen.ALWAYS: "hot_idle",
    NoiseWhen.NOT_HEARD: "cold_start",
}
BELTS = {BeltOff.NOT_TRIED: "not_tried", BeltOff.STAYS: "stays", BeltOff.GONE: "goes"}
LEVELS = {Level.FULL: "ok", Level.BETWEEN: "ok", Level.BELOW: "low", Level.NOT_LOOKED: "unknown"}


class KeptSheet(Protocol):
    """A worksheet as it is kept: with its answer, and every field as typed."""

    id: int | None
    kind: str
    part: str
    value: float | None
    stderr: float | None
    detail: dict[str, Any]


Told = dict[str, object]
_TEST: TypeAdapter[AnyTest] = TypeAdapter(AnyTest)


def kept_tests(book: EngineBook, rows: Sequence[KeptSheet]) -> list[AnyTest]:
    """The tests among kept readings. A sheet that cannot be read any more says nothing."""
    found: list[AnyTest] = []
    for row in rows:
        tell = _TELLERS.get(row.kind)
        if tell is None or "fields" not in row.detail:
            continue
        about = {"id": str(row.id), "kind": row.kind}
        about |= {} if row.part == WHOLE else {"part": row.part}
        try:
            filled = Filled(sheet_of(book, ReadingKind(row.kind)), dict(row.detail["fields"]))
            told = tell(row, filled)
            found += [] if told is None else [_TEST.validate_python({**about, **told})]
        except (FlaneurError, ValueError):
            continue  # kept before its sheet asked what it asks now
    return found


def _lash(row: KeptSheet, _: Filled) -> Told | None:
    if row.value is None or row.stderr is None:
        return None
    return {"lash_deg": row.value, "stderr_deg": max(row.stderr, LEAST_DEG)}


def _compress(row: KeptSheet, filled: Filled) -> Told | None:
    if filled.choice("method", TensionerBy) is TensionerBy.FEEL:
        return {"feel": FEELS[filled.choice("feel", Feel)]}
    return None if row.value is None else {"seconds": min(row.value, MOST_S)}


def _tool_fit(_: KeptSheet, filled: Filled) -> Told | None:
    fit = FITS.get(filled.choice("fit", ToolFit))
    slack = filled.choice("slack", Slack).value
    return {"fit": fit, "crank_deg": filled.quantity("angle"), "slack": slack} if fit else None


def _links(_: KeptSheet, filled: Filled) -> Told:
    return {"counted": filled.count("counted"), "slack": filled.choice("slack", Slack).value}


def _mark_miss(row: KeptSheet, filled: Filled) -> Told | None:
    if row.value is None or row.stderr is None:
        return None
    slack = filled.choice("slack", Slack).value
    return {"miss_deg": row.value, "stderr_deg": max(row.stderr, LEAST_DEG), "slack": slack}


def _debris(_: KeptSheet, filled: Filled) -> Told:
    return {key: filled.choice(key, Amount).value for key in ("plastic", "metal")}


def _endoscope(_: KeptSheet, filled: Filled) -> Told:
    return {"finding": LOOKS[filled.choice("finding", Look)]}


def _noise(_: KeptSheet, filled: Filled) -> Told:
    when, place = filled.choice("when", NoiseWhen), filled.chosen("place").code
    bank = place.removeprefix(AT_BANK)
    where = t.bank_top(bank) if bank != place else t.FOOT
    if place in (NoiseAt.FRONT_TOP, NoiseAt.UNKNOWN, NoiseAt.ACCESSORIES, NoiseAt.REAR):
        where = t.ELSEWHERE
    seconds = filled.quantity("seconds") if filled.has("seconds") else None
    return {
        "when": WHENS[when],
        "where": where,
        "seconds": 0.0 if when is NoiseWhen.NOT_HEARD else seconds,
        "belt_off": BELTS[filled.choice("belt", BeltOff)],
    }


def _oil(_: KeptSheet, filled: Filled) -> Told:
    figures = {"pressure_kpa": "pressure", "oil_c": "warm", "rpm": "speed", "age_h": "age"}
    read = {key: filled.quantity(field) for key, field in figures.items() if filled.has(field)}
    return {"level": LEVELS[filled.choice("level", Level)], **read}


_TELLERS: dict[str, Callable[[KeptSheet, Filled], Told | None]] = {
    ReadingKind.LASH: _lash,
    ReadingKind.COMPRESS: _compress,
    ReadingKind.TOOL_FIT: _tool_fit,
    ReadingKind.LINKS: _links,
    ReadingKind.MARK_MISS: _mark_miss,
    ReadingKind.DEBRIS: _debris,
    ReadingKind.ENDOSCOPE: _endoscope,
    ReadingKind.NOISE: _noise,
    ReadingKind.OIL: _oil,
}
