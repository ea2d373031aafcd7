"""Commands and their options. What a command does is in the module it names, which is brought in
only when the command is given.
"""

import argparse
import os
from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING

from flaneur.core.people import Role

if TYPE_CHECKING:  # the class takes no brackets when it runs
    Commands = argparse._SubParsersAction[argparse.ArgumentParser]


def parser() -> argparse.ArgumentParser:
    """Every command; each says what runs it as ``module:function`` of this package."""
    made = argparse.ArgumentParser(
        prog="flaneur", description="Timing chain diagnosis from the command line."
    )
    commands = made.add_subparsers(required=True, metavar="COMMAND")
    parts = (
        _signals,
        _reread,
        _diagnose,
        _clearance,
        _plan,
        _proof,
        _trend,
        _torque,
        _books,
        _records,
        _accounts,
    )
    for add in (*parts, _certificate):
        add(commands)
    return made


def _signals(commands: "Commands") -> None:
    correlate = commands.add_parser("correlate", help="cam deviations from a capture")
    correlate.add_argument("capture", type=Path)
    correlate.add_argument("--engine", type=Path, required=True, help="engine book")
    correlate.add_argument("--json", action="store_true")
    correlate.set_defaults(run="signals:correlate")
    simulate = commands.add_parser("simulate", help="a capture of an engine with hidden faults")
    simulate.add_argument("--engine", type=Path, required=True)
    simulate.add_argument("--faults", type=Path, required=True)
    simulate.add_argument("--out", type=Path, required=True)
    simulate.add_argument("--seed", type=int, default=0)
    simulate.add_argument("--seconds", type=float, default=6.0)
    simulate.add_argument("--rate", type=float, default=50_000.0, help="samples per second")
    simulate.add_argument("--rpm", type=float, default=720.0)
    simulate.set_defaults(run="signals:simulate")


def _reread(commands: "Commands") -> None:
    reread = commands.add_parser("reread", help="every capture read again, what differs by engine")
    reread.add_argument("folder", type=Path, nargs="?", help="folder of Parquet captures")
    reread.add_argument("--engine", type=Path, help="engine book of the folder's captures")
    reread.add_argument("--database", default="", metavar="URL", help="in place of a folder")
    reread.add_argument(
        "--out", type=Path, required=True, help="file of what was read; begun again, it goes on"
    )
    reread.add_argument("--workers", type=int, default=0, help="processes here (0: one a core)")
    reread.add_argument(
        "--scheduler",
        default=os.environ.get("FLANEUR_SCHEDULER", ""),
        metavar="ADDRESS",
        help="of a running cluster, tcp://host:port",
    )
    reread.add_argument(
        "--replace", action="store_true", help="put what differs in the place of what stands"
    )
    reread.add_argument("--by", default="", metavar="LOGIN", help="who replaces it")
    reread.add_argument("--json", action="store_true")
    reread.set_defaults(run="rereading:reread")


def _diagnose(commands: "Commands") -> None:
    diagnose = commands.add_parser("diagnose", help="suspects from readings")
    diagnose.add_argument("readings", type=Path)
    diagnose.add_argument("--engine", type=Path, required=True)
    diagnose.add_argument("--json", action="store_true")
    diagnose.add_argument("--rates", type=Path, help="the shop's rates (JSON)")
    diagnose.add_argument(
        "--school",
        nargs="*",
        default=[],
        metavar="WAY=CHOICE",
        help="extent=measured|whole_set sprockets=keep|renew parts=maker|aftermarket "
        "phasers=renew|lock_out",
    )
    diagnose.set_defaults(run="diagnosis:diagnose")
    for name, words in (
        ("learn", "how parts wear and readings err in the shop, from readings of closed jobs"),
        ("trust", "what was said of parts against what was found, from readings of closed jobs"),
    ):
        closed = commands.add_parser(name, help=words)
        closed.add_argument(
            "readings", type=Path, nargs="+", help="readings of one closed job each"
        )
        closed.add_argument("--engine", type=Path, required=True, help="engine book")
        closed.add_argument("--json", action="store_true")
        closed.set_defaults(run=f"diagnosis:{name}")


def _clearance(commands: "Commands") -> None:
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
    clearance.set_defaults(run="work:clearance")


def _plan(commands: "Commands") -> None:
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
    plan.add_argument("--ways", type=Path, help="JSON file with the ids of the ways to go")
    plan.add_argument(
        "--now", default="unknown", help="where the engine stands: 212deg, 32deg?, rising, falling"
    )
    plan.add_argument("--kit", default="", help="kit of the book the parts are bought in")
    plan.add_argument(
        "--stores",
        type=Path,
        help="folder with stock.csv, orders.csv, suppliers.csv, tools.csv, wrenches.csv",
    )
    plan.add_argument("--rates", type=Path, help="JSON file with the shop's rates")
    plan.add_argument("--today", type=date.fromisoformat, help="day it is, such as 2026-05-31")
    plan.add_argument("--lean", type=float, default=0.0, help="degrees the engine leans clockwise")
    plan.add_argument("--json", action="store_true")
    plan.set_defaults(run="work:plan")


def _proof(commands: "Commands") -> None:
    proof = commands.add_parser(
        "proof", help="what turning by hand shows: links, a hard stop, a mark that misses"
    )
    proof.add_argument("--engine", type=Path, required=True, help="engine book")
    proof.add_argument("--scope", default="", metavar="PART,...", help="components renewed")
    proof.add_argument("--bench", type=Path, help="JSON file of steps as they were answered")
    proof.add_argument("--stop", default="", help="crank angle of a hard stop, such as 203deg")
    proof.add_argument("--from", dest="start", default="", help="where the turning began")
    proof.add_argument(
        "--miss", action="append", default=[], metavar="MARK=DEG", help="late positive, crank"
    )
    proof.add_argument("--wear", type=float, default=0.0, help="degrees that parts left in explain")
    proof.add_argument("--json", action="store_true")
    proof.set_defaults(run="proving:proof")


def _trend(commands: "Commands") -> None:
    trend = commands.add_parser(
        "trend", help="when parts of a fleet come to their limits, and which comes first"
    )
    trend.add_argument("fleet", type=Path, metavar="FLEET", help="JSON file with lives of parts")
    trend.add_argument("--engine", type=Path, required=True, help="engine book")
    trend.add_argument("--seed", type=int, default=0)
    trend.add_argument("--json", action="store_true")
    trend.set_defaults(run="trending:trend")


def _torque(commands: "Commands") -> None:
    torque = commands.add_parser(
        "torque", help="how bolts were tightened, from torque–angle traces of one part"
    )
    torque.add_argument("traces", type=Path, nargs="+", metavar="TRACE")
    torque.add_argument("--program", type=Path, required=True, help="JSON file with the stages")
    torque.add_argument("--json", action="store_true")
    torque.set_defaults(run="fasteners:torque")
    adapter = commands.add_parser("adapter", help="what to set on a wrench with an adapter on it")
    adapter.add_argument("--target", required=True, help="torque of the fastener: 24Nm, 18lbf·ft")
    adapter.add_argument("--length", type=float, required=True, help="mm, pivot to grip")
    adapter.add_argument("--offset", type=float, required=True, help="mm, adapter's offset")
    adapter.add_argument(
        "--angle", type=float, default=0.0, help="degrees off the wrench's line (0 straight on)"
    )
    adapter.add_argument("--graduation", type=float, help="Nm between two lines of its scale")
    adapter.add_argument("--json", action="store_true")
    adapter.set_defaults(run="fasteners:adapter")


def _books(commands: "Commands") -> None:
    book = commands.add_parser("book", help="engine books").add_subparsers(
        required=True, metavar="COMMAND"
    )
    check = book.add_parser("check", help="say what is wrong with a book, one line per fault")
    check.add_argument("file", type=Path)
    check.set_defaults(run="books:check")
    book.add_parser("schema", help="print the JSON Schema of engine books").set_defaults(
        run="books:schema"
    )
    templates = book.add_parser("templates", help="print the operation templates as JSON")
    templates.add_argument("--schema", action="store_true", help="their JSON Schema instead")
    templates.add_argument("--page", action="store_true", help="as a page to read instead")
    templates.set_defaults(run="books:templates")


def _records(commands: "Commands") -> None:
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
    verify.set_defaults(run="records:verify")
    key = commands.add_parser("key", help="the depot's signing key").add_subparsers(
        required=True, metavar="COMMAND"
    )
    new = key.add_parser("new", help="make a signing key in FILE, and print its public key")
    new.add_argument("file", type=Path)
    new.set_defaults(run="records:key_new")
    public = key.add_parser("public", help="print the public key of a signing key")
    public.add_argument("file", type=Path)
    public.set_defaults(run="records:key_public")


def _accounts(commands: "Commands") -> None:
    user = commands.add_parser("user", help="accounts of the running server").add_subparsers(
        required=True, metavar="COMMAND"
    )
    user.add_parser("list", help="everybody with an account").set_defaults(run="people:everybody")
    add = user.add_parser("add", help="make an account, and print its one-time password")
    add.add_argument("login")
    add.add_argument("name", help="as the record shall write it")
    add.add_argument("--role", choices=[*Role], default=Role.TECHNICIAN.value)
    add.set_defaults(run="people:add")
    for name, words in (
        ("role", "make somebody a lead or a technician"),
        ("deactivate", "let somebody sign in no longer"),
        ("reactivate", "let somebody sign in again"),
        ("reset", "a one-time password for somebody who forgot theirs"),
    ):
        change = user.add_parser(name, help=words)
        change.add_argument("login")
        if name == "role":
            change.add_argument("role", choices=[*Role])
        change.set_defaults(run="people:change", change=name)


def _certificate(commands: "Commands") -> None:
    certificate = commands.add_parser(
        "certificate", help="the shop's own certificate, for tablets that come by HTTPS"
    )
    certificate.add_argument("folder", type=Path, help="where it is kept; made when missing")
    certificate.add_argument(
        "name", nargs="+", help="host names and addresses that tablets reach the server by"
    )
    certificate.set_defaults(run="certificate:certificate")
