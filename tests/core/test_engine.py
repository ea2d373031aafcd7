"""A book is compiled once for each content, and a changed copy is another book."""

from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.verdict import diagnose
from flaneur.core.engine.compiled import compiled, touch_map_of
from flaneur.core.readings.taken import CamReading, PhaserState, Readings
from flaneur.jobs.judging import judge


def test_the_same_content_is_the_same_engine(book: EngineBook, book_text: str) -> None:
    again = parse_book(f"{book_text}# and nothing more\n")
    assert again is not book
    assert again == book
    assert compiled(again) is compiled(book)
    assert compiled(book).clearance is compiled(again).clearance
    assert touch_map_of(again, "cam_a_in") is touch_map_of(book, "cam_a_in")


def test_a_changed_copy_is_another_engine(book: EngineBook) -> None:
    assert book.fingerprint
    changed = book.model_copy(update={"revision": book.revision + 1})
    assert changed.fingerprint != book.fingerprint
    assert changed != book
    assert compiled(changed) is not compiled(book)


def reading(deviation_deg: float) -> CamReading:
    return CamReading(
        cam="cam_b_in",
        deviation_deg=deviation_deg,
        stderr_deg=0.02,
        phaser=PhaserState(state="parked"),
    )


def test_one_reading_more_is_another_verdict(book: EngineBook) -> None:
    few = Readings(engine=book.name, cams=[reading(1.0)])
    more = Readings(engine=book.name, cams=[reading(18.0)])
    assert judge(book, few, False) is judge(book, few.model_copy(deep=True), False)
    assert judge(book, more, False) != judge(book, few, False)
    assert judge(book, few, False) == diagnose(book, few, False)
    assert judge(book, few) == diagnose(book, few)
