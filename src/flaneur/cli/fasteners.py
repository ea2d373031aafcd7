"""Commands on fasteners: judge torque–angle traces, set a wrench with an adapter on it."""

import argparse
import json

from pydantic import ValidationError

from flaneur.core.book.units import parse_quantity
from flaneur.core.errors import ReadingError
from flaneur.core.fasteners.adapter import Lever, adapter_setting
from flaneur.core.fasteners.judging import Program, judge
from flaneur.formats.traces import read_trace


def torque(options: argparse.Namespace) -> int:
    """How the bolts of one part were tightened."""
    try:
        program = Program.model_validate_json(options.program.read_text(encoding="utf-8"))
    except ValidationError as error:
        first = error.errors()[0]
        raise ReadingError(
            "The program cannot be read.",
            read=f"{'.'.join(map(str, first['loc']))}: {first['msg']}",
            expected='{"stages": [{"kind": "torque", "value": 24, "tolerance": 2}]}',
            advice="docs/formats/torque.md shows one.",
        ) from error
    judged = judge([read_trace(p.read_bytes(), p.name) for p in options.traces], program)
    if options.json:
        bolts = [one.model_dump(mode="json") for one in judged]
        print(json.dumps({"fastener": program.fastener, "bolts": bolts}, ensure_ascii=False))
        return 0
    for one in judged:
        print(f"{one.trace:32} {one.words}")
        for fault in one.faults:
            print(f"    {fault.words}")
    return 0


def adapter(options: argparse.Namespace) -> int:
    """What to set so that the fastener gets what it should."""
    target = parse_quantity(options.target, "torque").value
    lever = Lever(length_mm=options.length, offset_mm=options.offset, angle_deg=options.angle)
    found = adapter_setting(target, lever, options.graduation)
    print(found.model_dump_json() if options.json else found.words)
    return 0
