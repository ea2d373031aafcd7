"""flaneur reread: every capture read again, spread over processes."""

import argparse
import json
import os
import sys
from collections.abc import Sequence

from flaneur.core.errors import ErrorCode, FlaneurError
from flaneur.core.people import Person
from flaneur.core.signals.rereading import Difference, ReadAgain
from flaneur.jobs import rereading as jobs
from flaneur.jobs.spreading import cluster, spread
from flaneur.store.accounts import user_of_login
from flaneur.store.database import one_look


class NothingNamed(FlaneurError):
    """What to read, or to replace, is not named, or not known yet."""

    code = ErrorCode.INPUT_INVALID


def reread(options: argparse.Namespace) -> int:
    """Read every capture again, list what differs by engine, and replace it where that was said."""
    known = jobs.kept_lines(options.out)
    every = _every(options, known)
    left = jobs.to_read(every, known)
    if options.replace and options.folder is not None:
        raise NothingNamed("A folder holds nothing to replace.", expected="--database URL")
    if options.replace and left:
        raise NothingNamed(
            "Nobody has seen yet what differs.",
            read=f"{len(left)} of {len(every)} captures are not read, or by another decoder",
            expected="every capture read, and its differences looked at",
            advice="Nothing was replaced. Leave --replace out, look, and give it then.",
        )
    if left:
        _read(left, options, known)
    found = list(jobs.compared(every, known))
    refused = [one for k in every if (one := known[k.key]).refused]
    _tell(options.json, every, left, found, refused)
    if options.replace:
        url, by = _database(options), _person(options)
        replaced = jobs.replace(found, jobs.in_database(url), by)
        print(jobs.words_of(replaced), file=sys.stderr if options.json else sys.stdout)
    return 0


def _every(options: argparse.Namespace, known: dict[str, ReadAgain]) -> Sequence[jobs.Kept]:
    if options.folder is not None:
        if options.engine is None:
            raise NothingNamed("A folder of captures is read by a book.", expected="--engine BOOK")
        return jobs.in_folder(options.folder, options.engine, known)
    return jobs.in_database(_database(options))


def _database(options: argparse.Namespace) -> str:
    url = options.database or os.environ.get("FLANEUR_DATABASE_URL", "")
    if not url:
        raise NothingNamed(
            "Nothing to read is named.",
            expected="a folder of Parquet captures with --engine, or --database URL",
            advice="FLANEUR_DATABASE_URL names the database of a running server.",
        )
    return str(url)


def _person(options: argparse.Namespace) -> Person:
    """Who replaces. Raises NotFound for nobody."""
    with one_look(_database(options)) as session:
        user = user_of_login(session, options.by)
        return Person(user.name, user.id or 0)


def _read(
    left: Sequence[jobs.Kept], options: argparse.Namespace, known: dict[str, ReadAgain]
) -> None:
    """Read what is left; every line is kept as it comes. Broken off, the rest is read next time."""
    with (
        jobs.writing(options.out) as write,
        cluster(options.scheduler, options.workers) as client,
    ):
        try:
            for done, one in enumerate(spread(client, jobs.read, left), 1):
                write(one)
                known[one.capture] = one
                print(f"\r{done} of {len(left)} read", end="", file=sys.stderr, flush=True)
        except KeyboardInterrupt:
            print("\nBroken off; what was read is kept.", file=sys.stderr)
            raise SystemExit(130) from None
    print(file=sys.stderr)


def _tell(
    is_json: bool,
    every: Sequence[jobs.Kept],
    left: Sequence[jobs.Kept],
    found: Sequence[Difference],
    refused: Sequence[ReadAgain],
) -> None:
    if is_json:
        document = {
            "captures": len(every),
            "read": len(left),
            "differences": [d.model_dump() for d in found],
            "refused": [{"capture": r.capture, "why": r.refused} for r in refused],
        }
        print(json.dumps(document, ensure_ascii=False))
        return
    print(f"{len(every)} captures, {len(left)} of them read now; late is positive")
    for d in found:
        before, now = ("not read" if v is None else f"{v:+.2f}°" for v in (d.before_deg, d.now_deg))
        print(f"{d.engine:16} {d.capture:24} {d.cam:12} {before:>9} → {now:>9}")
    for r in refused:
        print(f"{r.engine:16} {r.capture:24} {r.refused}")
