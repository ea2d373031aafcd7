"""Slack that shows when the crank is turned back: links freed by pushing each tensioner back to
where it holds.
"""

from flaneur.core.drive.chain import NEW, ChainDrive, ChainWear
from flaneur.core.drive.train import DriveTrain
from flaneur.core.faults.model import Faults


def stop_mm(drive: ChainDrive, plunger_mm: float) -> float:
    """Extension at which the plunger holds when the chain pushes it back: one ratchet step, or its
    empty stop.
    """
    tensioner = drive.tensioner
    held = tensioner.stop_mm if tensioner.notch_mm is None else plunger_mm - tensioner.notch_mm
    return min(plunger_mm, max(tensioner.stop_mm, held))


def freed_links(drive: ChainDrive, wear: ChainWear = NEW, plunger_mm: float | None = None) -> float:
    """Links a chain has to spare once its tensioner is pushed back, with what hangs slack already
    where the plunger is at its stop; without a tensioner what always hangs slack. ``plunger_mm``:
    where its plunger stands, if that is known.
    """
    if not drive.has_tensioner:
        return max(0.0, drive.slack_links(wear))
    out = drive.plunger_mm(wear) if plunger_mm is None else plunger_mm
    taut = drive.links_needed(out, wear)
    hanging = max(0.0, drive.chain.links - taut)  # a plunger at its stop takes up no more
    return max(0.0, taut - drive.links_needed(stop_mm(drive, out), wear)) + hanging


def chain_lash_deg(
    train: DriveTrain, chain: str, wear: ChainWear = NEW, plunger_mm: float | None = None
) -> float:
    """Reverse-rotation lash one chain adds, crank degrees: links freed · 360/z of its driver, by
    that shaft's ratio.
    """
    freed = freed_links(train.chains[chain], wear, plunger_mm)
    return freed * deg_per_link(train, chain)


def deg_per_link(train: DriveTrain, chain: str) -> float:
    """Crank degrees of lash from one link of slack: 360/z of the driver, by its shaft's ratio."""
    driver = train.book.sprockets[train.book.chains[chain].driver]
    return 360.0 / driver.teeth * train.crank_per_turn[driver.shaft]


def shaft_lash_deg(train: DriveTrain, faults: Faults | None = None) -> dict[str, float]:
    """Lash of every shaft from the crank, crank degrees: summed over the chains in series. Gears
    count as without play.
    """
    lash = {k: 0.0 for k in train.crank_per_turn}
    for chain, drive in train.chains.items():
        own = chain_lash_deg(train, chain, train.wear_of(faults or Faults(), chain))
        driver = train.book.sprockets[drive.chain.driver].shaft
        for sprocket in drive.driven:
            lash[train.book.sprockets[sprocket].shaft] = lash[driver] + own
    return lash
