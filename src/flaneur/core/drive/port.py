"""Pinning a tensioner through its port: how far the crank is turned back for its chain to press the
plunger in.
"""

from dataclasses import dataclass

from flaneur.core.drive.lash import deg_per_link
from flaneur.core.drive.train import DriveTrain


@dataclass(frozen=True)
class PortTurn:
    """Crank degrees back until the pin goes in, and until the plunger is at its stop: from there
    the chain drags its cams along.
    """

    needs_deg: float
    most_deg: float


def port_turn(train: DriveTrain, chain: str) -> PortTurn | None:
    """For the tensioner of a chain, as new: links freed as the plunger goes in by the degrees
    of one link. The cams stand still meanwhile. None without a port.
    """
    drive = train.chains[chain]
    if not drive.has_tensioner or drive.tensioner.port_mm is None:
        return None
    out, each = drive.links_needed(drive.book_plunger_mm), deg_per_link(train, chain)
    needs, most = (
        (out - drive.links_needed(mm)) * each
        for mm in (drive.tensioner.port_mm, drive.tensioner.stop_mm)
    )
    return PortTurn(needs, most)
