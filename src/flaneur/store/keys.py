"""The depot's own signing key, and the keys of other depots whose seals are believed."""

import re
from functools import lru_cache
from pathlib import Path

from sqlmodel import Session, col, select

from flaneur.core.errors import RecordError
from flaneur.core.record.bounds import printable
from flaneur.formats.archive import public_key_of
from flaneur.store.changes import NotFound
from flaneur.store.importing import Trust
from flaneur.store.tables import TrustedKey, now


@lru_cache(maxsize=4)
def own_key(file: str) -> str:
    """The depot's signing key as PEM text. Raises RecordError when set-up made none."""
    try:
        text = Path(file).read_text(encoding="ascii") if file else ""
    except (OSError, UnicodeDecodeError) as error:
        raise _no_key(str(error)) from error
    if not text:
        raise _no_key("no file is named")
    public_key_of(text)
    return text


def _no_key(read: str) -> RecordError:
    return RecordError(
        "This depot has no signing key.",
        read=read,
        expected="the file that FLANEUR_SIGNING_KEY_FILE names",
        advice="Make one with script/flaneur key new FILE, and keep it with the backup.",
    )


def own_public_key(file: str) -> str | None:
    """The public key of this depot; None when it has no key yet."""
    try:
        return public_key_of(own_key(file))
    except RecordError:
        return None


def trusted_keys(session: Session) -> list[TrustedKey]:
    """Keys believed now, in the order they were added."""
    rows = session.exec(
        select(TrustedKey)
        .where(col(TrustedKey.removed_at).is_(None))
        .order_by(col(TrustedKey.added_at))
    )
    return list(rows)


def trust(session: Session, key_file: str) -> Trust:
    """Whose seals are believed here."""
    return Trust(own_public_key(key_file), {k.public_key: k.depot for k in trusted_keys(session)})


def add_key(session: Session, public_key: str, depot: str, by: str) -> TrustedKey:
    """Believe a depot's seals from now on."""
    row = session.get(TrustedKey, public_key) or TrustedKey(
        public_key=public_key, depot=depot, added_by=by
    )
    row.depot, row.added_by, row.added_at, row.removed_by, row.removed_at = (
        depot,
        by,
        now(),
        None,
        None,
    )
    session.add(row)
    session.flush()
    return row


def remove_key(session: Session, public_key: str, by: str) -> None:
    """Believe a depot's seals no longer; jobs that are here stay as they are. Raises NotFound."""
    row = session.get(TrustedKey, public_key) if re.fullmatch("[0-9a-f]{64}", public_key) else None
    if row is None or row.removed_at is not None:
        raise NotFound("No such key is trusted here.", read=printable(public_key, 16))
    row.removed_by, row.removed_at = by, now()
    session.add(row)
