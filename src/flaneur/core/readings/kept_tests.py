"""Worksheets as they are kept, as the tests diagnosis takes."""

from collections.abc import Callable, Sequence
from typing import Any, Protocol

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import FlaneurError
from flaneur.core.measuring.hands import Feel, Slack, TensionerBy, ToolFit
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.measuring.looks import Amount, BeltOff, Level, Look, NoiseAt, NoiseWhen
from flaneur.core.measuring.sheets import sheet_of
from flaneur.core.measuring.worksheet import Filled
from flaneur.core.readings import tests as t
from flaneur.core.readings.tests import AnyTest

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


def kept_tests(book: EngineBook, rows: Sequence[KeptSheet]) -> list[AnyTest]:
    """The tests among kept readings. A sheet that cannot be read any more says nothing."""
    found: list[AnyTest] = []
    for row in rows:
        make = _MAKERS.get(row.kind)
        if make is None or "fields" not in row.detail:
            continue
        typed = dict(row.detail["fields"])
        try:
            test = make(row, Filled(sheet_of(book, ReadingKind(row.kind)), typed))
        except (FlaneurError, ValueError):
            continue  # kept before its sheet asked what it asks now
        if test is not None:
            found.append(test)
    return found


def _lash(row: KeptSheet, _: Filled) -> AnyTest | None:
    if row.value is None or row.stderr is None:
        return None
    return t.Lash(
        id=str(row.id),
        kind="lash",
        part=row.part,
        lash_deg=row.value,
        stderr_deg=max(row.stderr, 0.05),
    )


def _compress(row: KeptSheet, filled: Filled) -> AnyTest | None:
    if filled.choice("method", TensionerBy) is TensionerBy.FEEL:
        feel = FEELS[filled.choice("feel", Feel)]
        return t.Compress.model_validate(
            {"id": str(row.id), "kind": "compress", "part": row.part, "feel": feel}
        )
    if row.value is None:
        return None
    return t.Compress(id=str(row.id), kind="compress", part=row.part, seconds=min(row.value, 3600))


def _tool_fit(row: KeptSheet, filled: Filled) -> AnyTest | None:
    fit = FITS.get(filled.choice("fit", ToolFit))
    if fit is None:
        return None
    return t.ToolFit.model_validate(
        {
            "id": str(row.id),
            "kind": "tool_fit",
            "part": row.part,
            "crank_deg": filled.quantity("angle"),
            "fit": fit,
            "slack": filled.choice("slack", Slack).value,
        }
    )


def _links(row: KeptSheet, filled: Filled) -> AnyTest | None:
    return t.Links.model_validate(
        {
            "id": str(row.id),
            "kind": "links",
            "part": row.part,
            "counted": filled.count("counted"),
            "slack": filled.choice("slack", Slack).value,
        }
    )


def _debris(row: KeptSheet, filled: Filled) -> AnyTest | None:
    return t.Debris.model_validate(
        {
            "id": str(row.id),
            "kind": "debris",
            "plastic": filled.choice("plastic", Amount).value,
            "metal": filled.choice("metal", Amount).value,
        }
    )


def _endoscope(row: KeptSheet, filled: Filled) -> AnyTest | None:
    return t.Endoscope.model_validate(
        {
            "id": str(row.id),
            "kind": "endoscope",
            "part": row.part,
            "finding": LOOKS[filled.choice("finding", Look)],
        }
    )


def _noise(row: KeptSheet, filled: Filled) -> AnyTest | None:
    when, place = filled.choice("when", NoiseWhen), filled.chosen("place").code
    where = place.replace("bank_", "front_top_").lower()
    if place in (NoiseAt.FRONT_TOP, NoiseAt.UNKNOWN, NoiseAt.ACCESSORIES, NoiseAt.REAR):
        where = "elsewhere"
    seconds = filled.quantity("seconds") if filled.has("seconds") else None
    return t.Noise.model_validate(
        {
            "id": str(row.id),
            "kind": "noise",
            "when": WHENS[when],
            "where": where,
            "seconds": 0.0 if when is NoiseWhen.NOT_HEARD else seconds,
            "belt_off": BELTS[filled.choice("belt", BeltOff)],
        }
    )


def _oil(row: KeptSheet, filled: Filled) -> AnyTest | None:
    figures = {"pressure_kpa": "pressure", "oil_c": "warm", "rpm": "speed", "age_h": "age"}
    read = {key: filled.quantity(field) for key, field in figures.items() if filled.has(field)}
    return t.Oil.model_validate(
        {
            "id": str(row.id),
            "kind": "oil",
            "level": LEVELS[filled.choice("level", Level)],
            **read,
        }
    )


_MAKERS: dict[str, Callable[[KeptSheet, Filled], AnyTest | None]] = {
    ReadingKind.LASH: _lash,
    ReadingKind.COMPRESS: _compress,
    ReadingKind.TOOL_FIT: _tool_fit,
    ReadingKind.LINKS: _links,
    ReadingKind.DEBRIS: _debris,
    ReadingKind.ENDOSCOPE: _endoscope,
    ReadingKind.NOISE: _noise,
    ReadingKind.OIL: _oil,
}
