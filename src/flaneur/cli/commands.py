"""The command line: correlate, simulate, diagnose, clearance, plan, book, verify and key need no
database; user does.
"""

import argparse
import json
import os
import re
import sys
from dataclasses import asdict
from pathlib import Path

import numpy as np
from pydantic import ValidationError

from flaneur.cli import certificate, people
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.templates.model import shipped
from flaneur.core.book.templates.schema import book_schema, templates_page, templates_schema
from flaneur.core.clearance.answer import clearance_answer
from flaneur.core.diagnosis.verdict import diagnose
from flaneur.core.errors import BookError, FlaneurError, PlanError, RecordError
from flaneur.core.faults.model import Faults
from flaneur.core.plan.plan import make_plan
from flaneur.core.readings.taken import Readings
from flaneur.core.signals.correlation import correlate
from flaneur.formats.archive import new_key, public_key_of
from flaneur.formats.books import load_book
from flaneur.formats.captures import read_capture, write_csv
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise


def main(arguments: list[str] | None = None) -> int:
    """Run one command; 0 when done, 1 when the input is refused, with one clear message on standard
    error.
    """
    options = _parser().parse_args(arguments)
    try:
        return int(options.run(options))
    except BookError as error:
        print(str(error) if not error.lines else "\n".join(error.lines), file=sys.stderr)
    except FlaneurError as error:
        print(str(error), file=sys.stderr)
    except ValidationError as error:
        for fault in error.errors():
            print(
                f"{'.'.join(str(p) for p in fault['loc']) or 'file'}: {fault['msg']}",
                file=sys.stderr,
            )
    except (FileNotFoundError, IsADirectoryError, PermissionError) as error:
        print(f"Cannot read {error.filename}: {error.strerror}.", file=sys.stderr)
    except (json.JSONDecodeError, UnicodeDecodeError) as error:
        print(f"This is not JSON: {error}.", file=sys.stderr)
    return 1


def _correlate(options: argparse.Namespace) -> int:
    book = load_book(options.engine)
    result = correlate(read_capture(options.capture), book)
    if options.json:
        cams = [
            {
                "cam": c.cam,
                "deviation_deg": c.deviation_deg,
                "stderr_deg": c.stderr_deg,
                "scatter_deg": c.scatter_deg,
                "cycles": c.cycles,
            }
            for c in result.cams
        ]
        print(
            json.dumps(
                {"engine": result.engine, "cams": cams, "quality": list(result.quality)},
                ensure_ascii=False,
            )
        )
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


def _simulate(options: argparse.Namespace) -> int:
    book = load_book(options.engine)
    faults = Faults.model_validate_json(options.faults.read_text(encoding="utf-8"))
    conditions = Conditions(seconds=options.seconds, rate_hz=options.rate, rpm=options.rpm)
    write_csv(
        synthesise(book, faults, conditions, np.random.default_rng(options.seed)), options.out
    )
    return 0


def _diagnose(options: argparse.Namespace) -> int:
    book: EngineBook = load_book(options.engine)
    verdict = diagnose(
        book, Readings.model_validate_json(options.readings.read_text(encoding="utf-8"))
    )
    if options.json:
        print(verdict.model_dump_json())
        return 0
    print(verdict.headline)
    for suspect in verdict.suspects[:8]:
        print(f"{suspect.probability:6.1%}  {suspect.name}")
    for wear in verdict.wear:
        interval = f"{wear.median:.2f} ({wear.low:.2f} to {wear.high:.2f}) {wear.unit}"
        print(f"{wear.name:30} {interval:32} limit {wear.limit:g} {wear.unit}: {wear.judged}")
    return 0


def _clearance(options: argparse.Namespace) -> int:
    book = load_book(options.engine)
    tooth: tuple[str, int] | None = None
    if options.teeth:
        contact, _, teeth = options.teeth.partition("=")
        if not re.fullmatch(r"[-+]?[1-9]|[-+]?1[0-2]", teeth):
            raise BookError(
                "Teeth are read as CONTACT=NUMBER.",
                read=options.teeth,
                expected="such as chain_a/cam_a_in=-1, late positive",
            )
        tooth = (contact, int(teeth))
    names = [tuple(filter(None, text.split(","))) for text in (options.off, options.held)]
    answer = clearance_answer(book, options.crank, names[0], names[1], options.parked, tooth)
    if options.json:
        print(answer.model_dump_json())
        return 0
    print(answer.words)
    for view in answer.ranges:
        print(f"{view.name} off at {view.crank_deg:g}°: {view.words}.")
        print("\n".join(f"  {swing.name}: {swing.words}." for swing in view.swings))
    if answer.teeth_off:
        print("\n".join([*answer.teeth_off.bent, *answer.teeth_off.clear]))
    if answer.reserve:
        print(f"Reserve: {answer.reserve.words}.")
    return 0


def _plan(options: argparse.Namespace) -> int:
    book = load_book(options.engine)
    scope = [part for part in options.scope.split(",") if part]
    if not scope:
        raise PlanError(
            "Nothing is chosen to be renewed.",
            expected=f"components of {book.name}: "
            + ", ".join(k for k, c in book.components.items() if c.renewable),
        )
    plan = make_plan(book, scope)
    if options.json:
        print(plan.model_dump_json())
        return 0
    print(
        f"{len(plan.steps)} steps, {plan.minutes:.0f} min of work, {plan.waiting_minutes:.0f} min "
        "of waiting"
    )
    for i, step in enumerate(plan.steps, 1):
        print(f"{i:3} {step.ref:28} {step.title} ({step.why})")
        print(f"    {step.text}")
        for caution in step.cautions:
            print(f"    ! {caution}")
    return 0


def _book_check(options: argparse.Namespace) -> int:
    book = load_book(options.file)
    print(f"{book.name}: no fault found.")
    return 0


def _book_schema(_: argparse.Namespace) -> int:
    print(json.dumps(book_schema(), indent=2, ensure_ascii=False))
    return 0


def _book_templates(options: argparse.Namespace) -> int:
    if options.schema:
        print(json.dumps(templates_schema(), indent=2, ensure_ascii=False))
    elif options.page:
        print(templates_page(), end="")
    else:
        print(json.dumps(shipped().model_dump(mode="json"), ensure_ascii=False))
    return 0


def _verify(options: argparse.Namespace) -> int:
    from flaneur.jobs.verifying import verify_file  # brings the database's libraries with it

    url = options.database or None
    if options.database == "":
        url = os.environ.get("FLANEUR_DATABASE_URL")
        if not url:
            raise RecordError(
                "No database is named.", expected="--database URL, or FLANEUR_DATABASE_URL"
            )
    holds = True
    for finding in verify_file(options.file, url, [key.lower() for key in options.key]):
        holds = holds and finding.holds
        if options.json:
            print(json.dumps(asdict(finding), ensure_ascii=False))
        else:
            print(f"{'holds ' if finding.holds else 'BROKEN'}  {finding.what:24} {finding.words}")
    return 0 if holds else 1


def _key_new(options: argparse.Namespace) -> int:
    pem = new_key()
    try:
        with os.fdopen(
            os.open(options.file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w"
        ) as out:
            out.write(pem)
    except FileExistsError as error:
        raise RecordError(
            "There is a file of that name.",
            read=str(options.file),
            advice="A signing key is never overwritten: reports rest on it.",
        ) from error
    print(public_key_of(pem))
    return 0


def _key_public(options: argparse.Namespace) -> int:
    print(public_key_of(options.file.read_text(encoding="ascii")))
    return 0


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="flaneur", description="Timing chain diagnosis from the command line."
    )
    commands = parser.add_subparsers(required=True, metavar="COMMAND")
    correlate_ = commands.add_parser("correlate", help="cam deviations from a capture")
    correlate_.add_argument("capture", type=Path)
    correlate_.add_argument("--engine", type=Path, required=True, help="engine book")
    correlate_.add_argument("--json", action="store_true")
    correlate_.set_defaults(run=_correlate)
    simulate = commands.add_parser("simulate", help="a capture of an engine with hidden faults")
    simulate.add_argument("--engine", type=Path, required=True)
    simulate.add_argument("--faults", type=Path, required=True)
    simulate.add_argument("--out", type=Path, required=True)
    simulate.add_argument("--seed", type=int, default=0)
    simulate.add_argument("--seconds", type=float, default=6.0)
    simulate.add_argument("--rate", type=float, default=50_000.0, help="samples per second")
    simulate.add_argument("--rpm", type=float, default=720.0)
    simulate.set_defaults(run=_simulate)
    diagnose_ = commands.add_parser("diagnose", help="suspects from readings")
    diagnose_.add_argument("readings", type=Path)
    diagnose_.add_argument("--engine", type=Path, required=True)
    diagnose_.add_argument("--json", action="store_true")
    diagnose_.set_defaults(run=_diagnose)
    clearance = commands.add_parser(
        "clearance", help="where valves can touch, how far the crank may turn, which way cams swing"
    )
    clearance.add_argument("--engine", type=Path, required=True, help="engine book")
    clearance.add_argument(
        "--crank", type=float, help="crank angle, degrees (default: the service position)"
    )
    clearance.add_argument(
        "--off",
        default="",
        metavar="CHAIN,...",
        help="chains that are off together (default: each, and all)",
    )
    clearance.add_argument(
        "--held", default="", metavar="CAM,...", help="cams that something holds"
    )
    clearance.add_argument(
        "--parked",
        action="store_true",
        help="every phaser was seen locked in park (default: anywhere in its travel)",
    )
    clearance.add_argument(
        "--teeth",
        metavar="CONTACT=TEETH",
        help="a chain set wrong at chain/sprocket, late positive",
    )
    clearance.add_argument("--json", action="store_true")
    clearance.set_defaults(run=_clearance)
    plan = commands.add_parser(
        "plan", help="steps of a repair, each with the engine's state after it"
    )
    plan.add_argument("--engine", type=Path, required=True, help="engine book")
    plan.add_argument(
        "--scope",
        required=True,
        metavar="PART,...",
        help="components to be renewed, as in the book",
    )
    plan.add_argument("--json", action="store_true")
    plan.set_defaults(run=_plan)
    book = commands.add_parser("book", help="engine books").add_subparsers(
        required=True, metavar="COMMAND"
    )
    check = book.add_parser("check", help="say what is wrong with a book, one line per fault")
    check.add_argument("file", type=Path)
    check.set_defaults(run=_book_check)
    book.add_parser("schema", help="print the JSON Schema of engine books").set_defaults(
        run=_book_schema
    )
    templates = book.add_parser("templates", help="print the operation templates as JSON")
    templates.add_argument("--schema", action="store_true", help="their JSON Schema instead")
    templates.add_argument("--page", action="store_true", help="as a page to read instead")
    templates.set_defaults(run=_book_templates)
    verify = commands.add_parser(
        "verify", help="say whether a report or job file, its journal and its seal belong together"
    )
    verify.add_argument("file", type=Path, metavar="REPORT-OR-ARCHIVE")
    verify.add_argument(
        "--database",
        nargs="?",
        const="",
        metavar="URL",
        help="look there too (default FLANEUR_DATABASE_URL)",
    )
    verify.add_argument(
        "--key",
        action="append",
        default=[],
        metavar="PUBLIC",
        help="believe only this public key (may be repeated)",
    )
    verify.add_argument("--json", action="store_true", help="one JSON object a line")
    verify.set_defaults(run=_verify)
    key = commands.add_parser("key", help="the depot's signing key").add_subparsers(
        required=True, metavar="COMMAND"
    )
    new = key.add_parser("new", help="make a signing key in FILE, and print its public key")
    new.add_argument("file", type=Path)
    new.set_defaults(run=_key_new)
    public = key.add_parser("public", help="print the public key of a signing key")
    public.add_argument("file", type=Path)
    public.set_defaults(run=_key_public)
    people.add_commands(commands)
    certificate.add_commands(commands)
    return parser
