"""A depot of two people and one unit, as tests find it."""

from argon2 import PasswordHasher
from argon2.profiles import CHEAPEST
from demo.depot import PASSWORD
from sqlalchemy import Engine
from tests.support.cluster import ROOT

from flaneur.store.accounts import add_user
from flaneur.store.database import transaction
from flaneur.store.depot import keep_book
from flaneur.store.tables import Unit
from flaneur.store.units import add_unit

BOOK_FILE = ROOT / "engines" / "ostrey-tansy.yaml"
QUICK = PasswordHasher.from_parameters(CHEAPEST)  # as the product's own, for nobody's secret


def furnish(owner: Engine, has_unit: bool = True) -> int:
    """Two people, and a unit with its book; the unit's key."""
    with transaction(owner) as session:
        add_user(session, "ivo", "Ivo Tarnholt", "technician", PASSWORD, QUICK)
        add_user(session, "sunna", "Sunna Quill", "lead", PASSWORD, QUICK)
        if not has_unit:
            return 0
        row = keep_book(session, BOOK_FILE.read_text(encoding="utf-8"))
        unit = Unit(tag="PIL-9", name="Pilot boat Petrel", kind="pilot boat")
        add_unit(session, unit, "PIL-9 main", row.id or 0, 3000, "the depot")
        return unit.id or 0
