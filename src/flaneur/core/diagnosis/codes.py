"""Fault codes of the trade's common list: which cam, phaser or sensor each is about.

Bank 1 is the bank of cylinder 1; letter A is the intake cam, B the exhaust cam (an engine with one
cam a bank has A alone).
"""

from flaneur.core.book.schema import EngineBook

CORRELATION = {(1, "A"): "P0016", (1, "B"): "P0017", (2, "A"): "P0018", (2, "B"): "P0019"}
TIMING = {
    (1, "A"): ("P0011", "P0012"),
    (1, "B"): ("P0014", "P0015"),
    (2, "A"): ("P0021", "P0022"),
    (2, "B"): ("P0024", "P0025"),
}
SLOW = {(1, "A"): "P000A", (1, "B"): "P000B", (2, "A"): "P000C", (2, "B"): "P000D"}
SENSOR = {
    (1, "A"): ("P0340", "P0341", "P0342", "P0343", "P0344"),
    (1, "B"): ("P0365", "P0366", "P0367", "P0368", "P0369"),
    (2, "A"): ("P0345", "P0346", "P0347", "P0348", "P0349"),
    (2, "B"): ("P0390", "P0391", "P0392", "P0393", "P0394"),
}


def place_of(book: EngineBook, cam: str) -> tuple[int, str]:
    """Bank and letter a code calls a cam by."""
    shaft = book.shafts[cam]
    first = next((k for k, b in book.banks.items() if 1 in b.cylinders), None)
    bank = 1 if shaft.bank is None or shaft.bank == first else 2
    return bank, "B" if shaft.role == "exhaust" else "A"


def correlation_code(book: EngineBook, cam: str) -> str:
    """The code that says a cam does not stand to the crank as it should."""
    return CORRELATION[place_of(book, cam)]


def sensor_codes(book: EngineBook, cam: str) -> tuple[str, ...]:
    """Codes of a cam's sensor and its wiring."""
    return SENSOR[place_of(book, cam)]


def phaser_codes_of(book: EngineBook, phaser: str) -> dict[str, str]:
    """Codes of a phaser: ``timing`` it does not reach what it is told, ``slow`` it comes late."""
    place = place_of(book, book.phasers[phaser].shaft)
    return {**dict.fromkeys(TIMING[place], "timing"), SLOW[place]: "slow"}
