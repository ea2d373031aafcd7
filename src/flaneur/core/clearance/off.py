"""What valves would meet with cams a tooth off."""

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import Contacts
from flaneur.core.clearance.view import UNKNOWN


class ValvesOff(BaseModel):
    """One line per kind of valve of each cam: those bent, and the rest; ``touches`` None without clearance data."""

    model_config = ConfigDict(frozen=True)

    bent: list[str]
    clear: list[str]
    touches: bool | None


def valves_off(book: EngineBook, late_deg: dict[str, float]) -> ValvesOff:
    """Least room of every valve group over a whole cycle with cams that late (crank degrees), phasers parked."""
    if book.clearance is None:
        return ValvesOff(bent=[], clear=[f"Valves {UNKNOWN}."], touches=None)
    contacts = Contacts(book)
    bent: list[str] = []
    clear: list[str] = []
    for key, group in book.clearance.valves.items():
        row = next(r for r in contacts.rows if r.group_id == key)
        room = contacts.least_margin_mm(row, late_deg[group.cam])
        cylinders = ", ".join(str(c) for c in group.cylinders)
        if room <= 0:
            bent.append(f"{group.name} meet their pistons in cylinders {cylinders}: {-room:.1f} mm too far, bent.")
        else:
            clear.append(f"{group.name} keep {room:.1f} mm from their pistons.")
    return ValvesOff(bent=bent, clear=clear, touches=bool(bent))
