"""What was read, in words; which readings contradict each other; which say nothing, and why."""

import numpy as np

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.fitting import play_deg
from flaneur.core.diagnosis.model import Solved
from flaneur.core.diagnosis.naming import part_name
from flaneur.core.readings.otherwise import Read
from flaneur.core.readings.taken import CamReading, DirectReading, PlungerReading, Readings
from flaneur.core.readings.tests import (
    AnyTest,
    Codes,
    Complaint,
    Compress,
    Debris,
    Endoscope,
    Lash,
    Links,
    MarkMiss,
    Noise,
    Oil,
    Replaced,
    Sweep,
    ToolFit,
)
from flaneur.core.wording import counted, late_words

TOO_FAR = 3.0  # standard deviations between two readings of one cam


def number_of(key: str) -> str:
    """A reading's number as a record names it: a log's has its letter already."""
    return f"R{key}" if key.isdigit() else key


def about(book: EngineBook, reading: Read) -> str:
    """One reading in a few words."""
    if isinstance(reading, CamReading):
        return f"{book.shafts[reading.cam].name} {late_words(reading.deviation_deg)}"
    if isinstance(reading, PlungerReading):
        tensioner = book.tensioner_of(reading.chain)
        name = tensioner.name if tensioner else reading.chain
        return f"{name} plunger out {reading.plunger_mm:.1f} mm"
    if isinstance(reading, DirectReading):
        unit = "% longer" if reading.part in book.chains else "mm worn"
        return f"{part_name(book, reading.part)} measured: {reading.value:.2f} {unit}"
    return _test(book, reading)


def _test(book: EngineBook, test: AnyTest) -> str:
    match test:
        case Lash():
            more = "at least " if test.beyond_scale else ""
            return f"{book.shafts[test.part].name} lash {more}{test.lash_deg:.1f}°"
        case ToolFit():
            return f"{book.shafts[test.part].name}: the tool {test.fit.replace('_', ' ')}"
        case MarkMiss():
            return f"{book.marks[test.part].name} {late_words(test.miss_deg)}"
        case Links():
            chain = test.part.rpartition(".")[0]
            return f"{book.chains[chain].name}: {counted(test.counted, 'link')} counted"
        case Compress():
            how = f"sinks in {test.seconds:g} s" if test.seconds is not None else str(test.feel)
            tensioner = book.tensioner_of(test.part)
            return f"{tensioner.name if tensioner else test.part} by hand: {how}"
        case Debris():
            return f"Debris: plastic {_word(test.plastic)}, metal {_word(test.metal)}"
        case Endoscope():
            return f"{part_name(book, test.part)} by endoscope: {_word(test.finding)}"
        case Noise():
            heard = "no noise" if test.seconds == 0 else f"noise {_word(test.where)}"
            belt = {"stays": ", stays with the belt off", "goes": ", gone with the belt off"}
            return f"{heard.capitalize()} at {_word(test.when)}{belt.get(test.belt_off, '')}"
        case Oil():
            figure = f" {test.pressure_kpa:.0f} kPa" if test.pressure_kpa is not None else ""
            return f"Oil{figure}, level {test.level}"
        case Codes():
            return f"Codes {', '.join(test.codes)}" if test.codes else "No codes set"
        case Sweep():
            found = ", ".join(_word(f) for f in test.found) or "answers as the book says"
            return f"{book.phasers[test.part].name} swept: {found}"
        case Complaint():
            start = "does not start" if test.no_start else f"rattle {_word(test.rattle)}"
            return f"Complaint: {start}"
        case Replaced():
            return f"{part_name(book, test.part)} replaced {test.hours_ago:g} h ago"


def _word(code: str) -> str:
    return code.replace("_", " ")


def contradictions(solved: Solved) -> list[str]:
    """Pairs of readings of one cam or chain that their errors cannot bring together."""
    rows = solved.problem.seen.rows
    found: list[str] = []
    for i, one in enumerate(rows):
        for two in rows[i + 1 :]:
            is_same = one.kind == two.kind and one.about == two.about
            if is_same and abs(one.value - two.value) > TOO_FAR * float(np.hypot(one.sd, two.sd)):
                is_shaft = one.about in solved.book.shafts
                name = (
                    solved.book.shafts[one.about].name
                    if is_shaft
                    else part_name(solved.book, one.about)
                )
                unit = " mm" if one.kind in ("plunger", "direct") else "°"
                found.append(
                    f"{name} was read twice, {one.value:.1f} and {two.value:.1f}{unit}: one of "
                    "the two is not so. Read it again, and strike out what was wrong."
                )
    return found


def unused(book: EngineBook, readings: Readings) -> list[str]:
    """What was recorded and can say nothing, with the reason."""
    said = [
        f"{about(book, far)}: no chain drive can show this. It is another engine's figure, or "
        "mistyped: read again, and strike it out."
        for far in readings.set_aside
    ]
    for test in readings.tests:
        if isinstance(test, Oil) and test.pressure_kpa is not None:
            if book.limits.oil_kpa_hot_idle is None:
                said.append("Oil pressure: the book gives nothing to judge it by.")
            elif test.oil_c is None or test.oil_c < 80:
                said.append("Oil pressure: not read hot, so it says nothing of the pump.")
        if isinstance(test, ToolFit) and play_deg(book, test) is None:
            check = book.check_of(test.part)
            said.append(
                f"{book.shafts[test.part].name}: the tool was tried at {test.crank_deg:g}°, its "
                f"check is at {check.crank_deg if check else 0:g}°; there it says nothing."
            )
        if isinstance(test, Endoscope) and test.finding == "not_seen":
            said.append(f"{part_name(book, test.part)}: could not be seen, which says nothing.")
        if isinstance(test, Endoscope) and test.part not in {
            **book.chains,
            **book.guides,
            **book.arms,
        }:
            said.append(
                f"{part_name(book, test.part)}: a look at it moves no suspect; renew it by what is "
                "seen."
            )
        if isinstance(test, Debris) and "not_looked" in (test.plastic, test.metal):
            said.append("Debris: what nobody looked for says nothing.")
    return said
