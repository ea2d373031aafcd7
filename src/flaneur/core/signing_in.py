"""How long somebody who guesses must wait, and that nobody else must.

Wrong tries are counted where they are made: for one account at one address. An account that is
tried from many addresses is open only where its person has signed in before; an address that tries
many accounts is open only to the accounts known there. So a shop behind one address is not locked
out by one of its tablets.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

LOOKED_BACK = timedelta(hours=1)
KNOWN_FOR = timedelta(days=30)
FREE_TRIES = 5
FIRST_WAIT = timedelta(seconds=15)
LONGEST_WAIT = timedelta(minutes=15)
OF_ONE_ACCOUNT = 20
OF_ONE_ADDRESS = 60


@dataclass(frozen=True)
class WrongTry:
    """A wrong password, or a login nobody has."""

    login: str
    address: str
    at: datetime


def wait_until(
    tries: Sequence[WrongTry], login: str, address: str, *, is_known: bool, now: datetime
) -> datetime | None:
    """When this account may be tried again from this address; None: at once. ``tries``: the wrong
    ones of the account anywhere and of the address; ``is_known``: the account was signed in at that
    address within ``KNOWN_FOR``.
    """
    fresh = [t for t in tries if now - t.at < LOOKED_BACK]
    here = [t for t in fresh if t.login == login and t.address == address]
    waits = [_after(here, FREE_TRIES)]
    if not is_known:
        waits.append(_after([t for t in fresh if t.login == login], OF_ONE_ACCOUNT))
        waits.append(_after([t for t in fresh if t.address == address], OF_ONE_ADDRESS))
    until = max((w for w in waits if w is not None), default=None)
    return until if until is not None and until > now else None


def _after(tries: Sequence[WrongTry], free: int) -> datetime | None:
    """The end of the wait after the last of these tries: twice as long after each beyond the free
    ones.
    """
    over = len(tries) - free
    if over < 0:
        return None
    wait = min(FIRST_WAIT * 2 ** min(over, 10), LONGEST_WAIT)
    return max(t.at for t in tries) + wait
