"""The commands that diagnose, and that learn from what was found."""

import argparse
import json

from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.advice import advise
from flaneur.core.decision.found import Advice
from flaneur.core.decision.rates import Rates, School
from flaneur.core.diagnosis.found import Verdict
from flaneur.core.diagnosis.learned import learned_from
from flaneur.core.diagnosis.model import solve_readings
from flaneur.core.diagnosis.verdict import verdict_on
from flaneur.core.readings.taken import Readings
from flaneur.core.trend.calibration import calibration
from flaneur.core.trend.lessons import lesson_of
from flaneur.formats.books import load_book


class Judgement(Verdict, Advice):
    """A verdict and what is advised on it, as one document."""


def diagnose(options: argparse.Namespace) -> int:
    """Suspects from readings, the next test, and what each action costs."""
    book = load_book(options.engine)
    readings = Readings.model_validate_json(options.readings.read_text(encoding="utf-8"))
    rates = Rates()
    if options.rates:
        rates = Rates.model_validate_json(options.rates.read_text(encoding="utf-8"))
    school = School.model_validate(dict(way.partition("=")[::2] for way in options.school))
    solved = solve_readings(book, readings)
    verdict, advice = verdict_on(solved), advise(solved, rates, school)
    if options.json:
        print(Judgement(**dict(verdict), **dict(advice)).model_dump_json())
        return 0
    print(verdict.headline)
    for figure in verdict.out_of_tolerance:
        print(f"{figure.name}: {figure.words}")
    for suspect in verdict.suspects[:8]:
        print(f"{suspect.probability:6.1%}  {suspect.name}")
    for wear in verdict.wear:
        interval = f"{wear.median:.2f} ({wear.low:.2f} to {wear.high:.2f}) {wear.unit}"
        print(f"{wear.name:30} {interval:32} limit {wear.limit:g} {wear.unit}: {wear.judged}")
    print(advice.when_to_stop)
    for test in advice.next_tests[:4]:
        print(f"  {test.name}: gains {test.gain:.0f} for {test.minutes:.0f} min")
    for option in advice.decision:
        print(f"{option.expected_cost:8.0f}  {option.name}. {option.words}")
    return 0


def learn(options: argparse.Namespace) -> int:
    """How parts wear in the shop's engines beside what the book says, and how much readings err
    there: what ``learned`` and ``errors`` of the readings take.
    """
    book, closed = _closed(options)
    found = learned_from(book, closed)
    held = calibration([lesson_of(book, readings) for readings in closed])
    if options.json:
        told = {"learned": found, "errors": held.errors}
        print(json.dumps({k: [each.model_dump() for each in v] for k, v in told.items()}))
        return 0
    for each in (*found, *held.errors):
        print(each.words)
    return 0


def trust(options: argparse.Namespace) -> int:
    """What was said of parts in closed jobs against what was found once they were off."""
    book, closed = _closed(options)
    held = calibration([lesson_of(book, readings) for readings in closed])
    if options.json:
        print(held.model_dump_json())
        return 0
    for words in (*held.words, *(f"{b.low:.0%} to {b.high:.0%}: {b.words}" for b in held.bins)):
        print(words)
    return 0


def _closed(options: argparse.Namespace) -> tuple[EngineBook, list[Readings]]:
    """The book, and the readings of one closed job each."""
    texts = [path.read_text(encoding="utf-8") for path in options.readings]
    return load_book(options.engine), [Readings.model_validate_json(text) for text in texts]
