"""All worksheets of a book, and working one out."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import ReadingError
from flaneur.core.measuring import lengths, looks
from flaneur.core.measuring.worksheet import Answer, Filled, SheetMaker, Worker, Worksheet

MEASURED_OFF = (
    "chain_length",
    "liner",
)  # measured on the part that came off, whenever that is: it tells of before the repair

_SHEETS: dict[str, tuple[SheetMaker, Worker]] = {
    "plunger": (lengths.plunger_sheet, lengths.plunger),
    "lash": (lengths.lash_sheet, lengths.lash),
    "compress": (looks.compress_sheet, looks.compress),
    "tool_fit": (looks.tool_sheet, looks.tool_fit),
    "links": (looks.links_sheet, looks.links),
    "chain_length": (lengths.chain_length_sheet, lengths.chain_length),
    "liner": (lengths.liner_sheet, lengths.liner),
    "debris": (looks.debris_sheet, looks.debris),
    "endoscope": (looks.endoscope_sheet, looks.endoscope),
    "noise": (looks.noise_sheet, looks.noise),
    "oil": (looks.oil_sheet, looks.oil),
}


def worksheets(book: EngineBook) -> list[Worksheet]:
    """Every sheet that has a part of this engine to be used on."""
    return [sheet for make, _ in _SHEETS.values() if (sheet := make(book)).parts]


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


def reading_name(book: EngineBook, kind: str, part: str) -> str:
    """What a reading is of, in words: the cam, or the sheet and the part."""
    if kind not in _SHEETS:
        return book.shafts[part].name
    sheet = _SHEETS[kind][0](book)
    name = next((p.name for p in sheet.parts if p.id == part), part)
    return sheet.title if name == book.name else f"{sheet.title}, {name}"
