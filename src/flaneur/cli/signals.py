"""Commands on signals: correlate a capture, simulate one."""

import argparse
import json
from dataclasses import asdict

import numpy as np

from flaneur.core.faults.model import Faults
from flaneur.core.signals.correlation import correlate as correlated
from flaneur.core.signals.identify import in_time
from flaneur.core.signals.notes import code_of
from flaneur.formats.books import load_book
from flaneur.formats.captures import read_capture, write_csv
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise


def correlate(options: argparse.Namespace) -> int:
    """Cam deviations of a capture."""
    book = load_book(options.engine)
    result = correlated(in_time(read_capture(options.capture), book), book)
    if options.json:
        cams = [
            {
                "cam": c.cam,
                "deviation_deg": c.deviation_deg,
                "stderr_deg": c.stderr_deg,
                "scatter_deg": c.scatter_deg,
                "cycles": c.cycles,
                "settled_deg": c.settling.settled_deg if c.settling else None,
                "moved": asdict(c.moved) if c.moved else None,
                "per_edge": [asdict(edge) for edge in c.edges],
                "delay_us": c.delay.delay_us if c.delay else None,
                "delay_stderr_us": c.delay.stderr_us if c.delay else None,
            }
            for c in result.cams
        ]
        said = [*result.quality, *result.notes]
        notes = [{"code": code_of(words), "words": words} for words in said]
        document = {
            "engine": result.engine,
            "rpm": result.rpm,
            "rest": asdict(result.rest) if result.rest else None,
            "cams": cams,
            "quality": list(result.quality),
            "notes": notes,
        }
        print(json.dumps(document, ensure_ascii=False, allow_nan=False))
        return 0
    print(f"{result.engine}, {result.rpm:.0f} rpm; degrees are crank degrees, late is positive")
    for c in result.cams:
        name = book.shafts[c.cam].name
        print(
            f"{name:32} {c.deviation_deg:+8.3f}° ± {c.stderr_deg:.3f}   scatter "
            f"{c.scatter_deg:.2f}°   {c.cycles} cycles"
        )
    for words in result.quality:
        print(f"note: {words}")
    return 0


def simulate(options: argparse.Namespace) -> int:
    """A capture of an engine with hidden faults."""
    book = load_book(options.engine)
    faults = Faults.model_validate_json(options.faults.read_text(encoding="utf-8"))
    conditions = Conditions(seconds=options.seconds, rate_hz=options.rate, rpm=options.rpm)
    write_csv(
        synthesise(book, faults, conditions, np.random.default_rng(options.seed)), options.out
    )
    return 0
