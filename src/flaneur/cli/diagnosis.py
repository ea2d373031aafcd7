"""The command that diagnoses."""

import argparse

from flaneur.core.diagnosis.verdict import diagnose as diagnosed
from flaneur.core.readings.taken import Readings
from flaneur.formats.books import load_book


def diagnose(options: argparse.Namespace) -> int:
    """Suspects from readings."""
    book = load_book(options.engine)
    verdict = diagnosed(
        book, Readings.model_validate_json(options.readings.read_text(encoding="utf-8"))
    )
    if options.json:
        print(verdict.model_dump_json())
        return 0
    print(verdict.headline)
    for figure in verdict.out_of_tolerance:
        print(f"{figure.name}: {figure.words}")
    for suspect in verdict.suspects[:8]:
        print(f"{suspect.probability:6.1%}  {suspect.name}")
    for wear in verdict.wear:
        interval = f"{wear.median:.2f} ({wear.low:.2f} to {wear.high:.2f}) {wear.unit}"
        print(f"{wear.name:30} {interval:32} limit {wear.limit:g} {wear.unit}: {wear.judged}")
    return 0
