"""All worksheets of a book, and working one out."""

from collections.abc import Mapping
from types import MappingProxyType

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import ReadingError
from flaneur.core.measuring import hands, lengths, looks, marks, slack
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.measuring.worksheet import Answer, Filled, SheetMaker, Worker, Worksheet

_SHEETS: Mapping[str, tuple[SheetMaker, Worker]] = MappingProxyType(
    {
        ReadingKind.PLUNGER: (slack.plunger_sheet, slack.plunger),
        ReadingKind.LASH: (slack.lash_sheet, slack.lash),
        ReadingKind.COMPRESS: (hands.compress_sheet, hands.compress),
        ReadingKind.TOOL_FIT: (hands.tool_sheet, hands.tool_fit),
        ReadingKind.LINKS: (hands.links_sheet, hands.links),
        ReadingKind.MARK_MISS: (marks.mark_sheet, marks.mark_miss),
        ReadingKind.CHAIN_LENGTH: (lengths.chain_length_sheet, lengths.chain_length),
        ReadingKind.LINER: (lengths.liner_sheet, lengths.liner),
        ReadingKind.DEBRIS: (looks.debris_sheet, looks.debris),
        ReadingKind.ENDOSCOPE: (looks.endoscope_sheet, looks.endoscope),
        ReadingKind.NOISE: (looks.noise_sheet, looks.noise),
        ReadingKind.OIL: (looks.oil_sheet, looks.oil),
    }
)


def worksheets(book: EngineBook) -> list[Worksheet]:
    """Every sheet that has a part of this engine to be used on."""
    return [sheet for make, _ in _SHEETS.values() if (sheet := make(book)).parts]


def sheet_of(book: EngineBook, kind: ReadingKind) -> Worksheet:
    """The sheet of one kind of reading. Raises KeyError for a cam, which has none."""
    return _SHEETS[kind][0](book)


def work_out(book: EngineBook, kind: str, part: str, typed: dict[str, str]) -> Answer:
    """Read a filled-in sheet. Raises ReadingError naming the field, what was read and what was
    expected.
    """
    if kind not in _SHEETS:
        raise ReadingError("There is no such worksheet.", read=kind, expected=", ".join(_SHEETS))
    make, work = _SHEETS[kind]
    sheet = make(book)
    if part not in {p.id for p in sheet.parts}:
        raise ReadingError(
            "This sheet is not for that part.",
            read=part,
            expected=", ".join(p.id for p in sheet.parts),
        )
    return work(book, part, Filled(sheet, typed))


def part_name(book: EngineBook, kind: str, part: str) -> str:
    """The part a reading is of; empty where it is of the whole engine."""
    if kind not in _SHEETS:
        return book.shafts[part].name
    name = next((p.name for p in _SHEETS[kind][0](book).parts if p.id == part), part)
    return "" if name == book.name else name


def figure_words(value: float, unit: str) -> str:
    """A worksheet's figure with as many digits as its unit is worth."""
    digits = {"%": 2, "links": 0}.get(unit, 1)
    return f"{value:.{digits}f}{'' if unit == '°' else ' '}{unit}".rstrip()


def reading_name(book: EngineBook, kind: str, part: str) -> str:
    """What a reading is of, in words: the cam, or the sheet and the part."""
    if kind not in _SHEETS:
        return book.shafts[part].name
    title, name = _SHEETS[kind][0](book).title, part_name(book, kind, part)
    return f"{title}, {name}" if name else title


def typed_words(book: EngineBook, kind: str, fields: dict[str, str]) -> str:
    """What was typed into a sheet's measured fields, in one line of at most 200 letters."""
    asked = {
        blank.key
        for sheet in worksheets(book)
        if sheet.kind == kind
        for blank in sheet.blanks
        if blank.kind != "choice" and blank.key != "uncertainty"
    }
    return "; ".join(v for k, v in fields.items() if k in asked and v.strip())[:200]


def method_words(book: EngineBook, kind: str, fields: dict[str, str]) -> str:
    """How a sheet says it was measured; empty where it knows one way only."""
    sheet = next((s for s in worksheets(book) if s.kind == kind), None)
    blanks = sheet.blanks if sheet else ()
    offered = next((b.choices for b in blanks if b.key == "method"), ())
    return next((c.words for c in offered if c.code == fields.get("method")), "")
