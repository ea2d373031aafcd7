"""Command on trends: when parts of a fleet come to their limits, and which comes first."""

import argparse

from flaneur.core.trend.forecast import SOON_H, by_engine, fleet_trend
from flaneur.core.trend.lives import Fleet
from flaneur.formats.books import load_book


def trend(options: argparse.Namespace) -> int:
    """Wear against hours of every part told of, of engines of one book."""
    book = load_book(options.engine)
    fleet = Fleet.model_validate_json(options.fleet.read_text(encoding="utf-8"))
    found = fleet_trend(book, fleet, options.seed)
    if options.json:
        print(found.model_dump_json())
        return 0
    for one in found.trends:
        print(f"{one.engine:20} {100 * one.risk:5.1f} %  {one.words}")
    print(f"Over a limit within {SOON_H:g} h:")
    for engine, odds in by_engine(found.trends).items():
        print(f"{engine:20} {100 * odds:5.1f} %")
    return 0
