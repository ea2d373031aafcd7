"""The whole drive: how wear on any chain arrives at each cam, in crank degrees."""

from dataclasses import dataclass
from functools import cached_property

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.chain import ChainDrive, ChainWear
from flaneur.core.errors import BookError
from flaneur.core.faults.model import Faults


@dataclass(frozen=True)
class DriveState:
    """Deviation per cam (crank degrees, late positive; shaft only, no phaser or tone wheel) and plunger per chain."""

    deviation_deg: dict[str, float]
    plunger_mm: dict[str, float]


class DriveTrain:
    """Chains of a book in driving order, with each shaft's crank turns per own turn."""

    def __init__(self, book: EngineBook) -> None:
        self.book = book
        self.chains = {chain: ChainDrive(book, chain) for chain in self._order()}

    def _order(self) -> list[str]:
        """Chains from the crank outwards; BookError when one is driven by nothing."""
        driven = {k for k, s in self.book.shafts.items() if s.kind == "crank"}
        waiting = list(self.book.chains)
        order: list[str] = []
        while waiting:
            ready = [c for c in waiting if self._shaft(self.book.chains[c].driver) in driven]
            if not ready:
                faults = [f"chains.{c}.driver: nothing turns {self.book.chains[c].driver}" for c in waiting]
                raise BookError("Some chains are not driven from the crankshaft.", faults, read=faults[0])
            for chain in ready:
                waiting.remove(chain)
                order.append(chain)
                driven |= {self._shaft(s) for s in self.book.chains[chain].loop if s in self.book.sprockets}
        return order

    def _shaft(self, sprocket: str) -> str:
        return self.book.sprockets[sprocket].shaft

    @cached_property
    def crank_per_turn(self) -> dict[str, float]:
        """Crank turns for one turn of each shaft, from tooth counts."""
        ratio = {k: 1.0 for k, s in self.book.shafts.items() if s.kind == "crank"}
        for drive in self.chains.values():
            driver = self.book.sprockets[drive.chain.driver]
            for sprocket in drive.driven:
                ratio[self._shaft(sprocket)] = ratio[driver.shaft] * self.book.sprockets[sprocket].teeth / driver.teeth
        return ratio

    def tooth_deg(self, sprocket: str) -> float:
        """Crank degrees by which one tooth on this sprocket shifts what hangs on it."""
        return 360.0 / self.book.sprockets[sprocket].teeth * self.crank_per_turn[self._shaft(sprocket)]

    def jump_deg(self, contact: str) -> dict[str, float]:
        """Deviation of every cam for one tooth late at a contact ``chain/sprocket``, crank degrees."""
        chain, sprocket = contact.split("/")
        tooth = self.tooth_deg(sprocket)
        moved: set[str]
        if sprocket == self.book.chains[chain].driver:
            moved = {self._shaft(s) for s in self.chains[chain].driven}
        else:
            moved = {self._shaft(sprocket)}
        for drive in self.chains.values():
            if self._shaft(drive.chain.driver) in moved:
                moved |= {self._shaft(s) for s in drive.driven}
        return {cam: tooth if cam in moved else 0.0 for cam in self.book.cams}

    def contacts(self) -> list[str]:
        """Every place where a chain can jump, ``chain/sprocket``."""
        return [f"{c}/{s}" for c, d in self.chains.items() for s in [d.chain.driver, *d.driven]]

    def cams_of(self, chain: str) -> list[str]:
        """Cams this chain turns, directly or through the chains it drives."""
        moved = {self._shaft(s) for s in self.chains[chain].driven}
        for drive in self.chains.values():
            if self._shaft(drive.chain.driver) in moved:
                moved |= {self._shaft(s) for s in drive.driven}
        return [cam for cam in self.book.cams if cam in moved]

    def wear_of(self, faults: Faults, chain: str) -> ChainWear:
        faces = tuple((f, faults.liner_wear_mm.get(f, 0.0)) for f in self.chains[chain].faces)
        return ChainWear(faults.elongation_pct.get(chain, 0.0) / 100.0, faces)

    def state(self, faults: Faults) -> DriveState:
        """Lags and plungers of a worn drive by the closed-form path solver."""
        late = {k: 0.0 for k, s in self.book.shafts.items() if s.kind == "crank"}
        plunger: dict[str, float] = {}
        for chain, drive in self.chains.items():
            wear = self.wear_of(faults, chain)
            plunger[chain] = drive.plunger_mm(wear)
            own = drive.lags_deg(wear, plunger[chain])
            driver = late[self._shaft(drive.chain.driver)]
            for sprocket, lag in own.items():
                shaft = self._shaft(sprocket)
                late[shaft] = driver + lag * self.crank_per_turn[shaft]
        for contact, teeth in faults.jumped_teeth.items():
            for cam, deg in self.jump_deg(contact).items():
                late[cam] += teeth * deg
        return DriveState({cam: late[cam] for cam in self.book.cams}, plunger)
