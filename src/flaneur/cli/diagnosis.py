"""The commands that diagnose, and that learn from what was found."""

import argparse
import json

from flaneur.core.decision.advice import advise
from flaneur.core.decision.found import Advice
from flaneur.core.decision.rates import Rates, School
from flaneur.core.diagnosis.found import Verdict
from flaneur.core.diagnosis.learned import learned_from
from flaneur.core.diagnosis.model import solve_readings
from flaneur.core.diagnosis.verdict import verdict_on
from flaneur.core.readings.taken import Readings
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
    """How parts wear in the shop's engines beside what the book says: what ``learned`` of the
    readings takes.
    """
    book = load_book(options.engine)
    closed = [
        Readings.model_validate_json(path.read_text(encoding="utf-8")) for path in options.readings
    ]
    found = learned_from(book, closed)
    if options.json:
        print(json.dumps({"learned": [each.model_dump() for each in found]}))
        return 0
    for each in found:
        print(each.words)
    return 0
