"""Commands on records: verify a report or job file, make a signing key."""

import argparse
import json
import os
from dataclasses import asdict

from flaneur.core.errors import RecordError
from flaneur.formats.archive import new_key, public_key_of


def verify(options: argparse.Namespace) -> int:
    """Whether a report or job file, its journal and its seal belong together."""
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
            said = "BROKEN" if not finding.holds else "holds" if finding.is_compared else "open"
            print(f"{said:6}  {finding.what:24} {finding.words}")
    return 0 if holds else 1


def key_new(options: argparse.Namespace) -> int:
    """Make a signing key, and print its public key."""
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


def key_public(options: argparse.Namespace) -> int:
    """Print the public key of a signing key."""
    print(public_key_of(options.file.read_text(encoding="ascii")))
    return 0
