"""The whole drive: how wear on any chain arrives at each cam, in crank degrees."""

from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.chain import ChainDrive, ChainWear
from flaneur.core.errors import BookError, Fault
from flaneur.core.faults.model import Faults
from flaneur.core.keys import Contact


@dataclass(frozen=True)
class DriveState:
    """Deviation per cam (crank degrees, late positive; shaft only, no phaser or tone wheel),
    plunger per tensioned chain.
    """

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
        waiting, meshes = list(self.book.chains), list(self.book.meshes)
        order: list[str] = []
        while waiting:
            turned = [m for m in meshes if self.book.gears[m.driver].shaft in driven]
            meshes = [m for m in meshes if m not in turned]
            driven |= {self.book.gears[m.driven].shaft for m in turned}
            ready = [c for c in waiting if self._shaft(self.book.chains[c].driver) in driven]
            if not ready and not turned:
                faults = [
                    Fault(f"chains.{c}.driver", f"nothing turns {self.book.chains[c].driver}")
                    for c in waiting
                ]
                raise BookError(
                    "Some chains are not driven from the crankshaft.", faults, read=faults[0].line
                )
            for chain in ready:
                waiting.remove(chain)
                order.append(chain)
                driven |= {
                    self._shaft(s) for s in self.book.chains[chain].loop if s in self.book.sprockets
                }
        return order

    def _shaft(self, sprocket: str) -> str:
        return self.book.sprockets[sprocket].shaft

    @cached_property
    def exact_ratio(self) -> dict[str, Fraction]:
        """Crank turns for one turn of each shaft that anything turns, exactly, from tooth counts.
        Gears turn it round.
        """
        ratio = {k: Fraction(1) for k, s in self.book.shafts.items() if s.kind == "crank"}
        waiting = list(self.book.meshes)

        def along_gears() -> None:
            again = True
            while again:
                again = False
                for mesh in list(waiting):
                    driver, driven = self.book.gears[mesh.driver], self.book.gears[mesh.driven]
                    if driver.shaft in ratio:
                        ratio[driven.shaft] = ratio[driver.shaft] * -Fraction(
                            driven.teeth, driver.teeth
                        )
                        waiting.remove(mesh)
                        again = True

        along_gears()
        for drive in self.chains.values():
            driver = self.book.sprockets[drive.chain.driver]
            for sprocket in drive.driven:
                turns = Fraction(self.book.sprockets[sprocket].teeth, driver.teeth)
                ratio[self._shaft(sprocket)] = (
                    ratio[driver.shaft] * turns * driver.wrap * self.book.sprockets[sprocket].wrap
                )
            along_gears()
        return ratio

    @cached_property
    def crank_per_turn(self) -> dict[str, float]:
        """Crank turns for one turn of each shaft, from tooth counts, whichever way it turns."""
        return {shaft: abs(float(ratio)) for shaft, ratio in self.exact_ratio.items()}

    def tooth_deg(self, sprocket: str) -> float:
        """Crank degrees by which one tooth on this sprocket shifts what hangs on it."""
        return (
            360.0 / self.book.sprockets[sprocket].teeth * self.crank_per_turn[self._shaft(sprocket)]
        )

    def moved_by(self, contact: str) -> set[str]:
        """Shafts that one tooth at a contact ``chain/sprocket`` shifts: at the driver all behind
        it, else that shaft's.
        """
        chain, sprocket = Contact.of(contact)
        if sprocket == self.book.chains[chain].driver:
            return self._with_followers({self._shaft(s) for s in self.chains[chain].driven})
        return self._with_followers({self._shaft(sprocket)})

    def _with_followers(self, moved: set[str]) -> set[str]:
        for drive in self.chains.values():
            if self._shaft(drive.chain.driver) in moved:
                moved |= {self._shaft(s) for s in drive.driven}
        return moved

    def jump_deg(self, contact: str) -> dict[str, float]:
        """Deviation of every cam for one tooth late at a contact ``chain/sprocket``, crank
        degrees.
        """
        tooth, moved = self.tooth_deg(Contact.of(contact).sprocket), self.moved_by(contact)
        return {cam: tooth if cam in moved else 0.0 for cam in self.book.cams}

    def teeth_of(self, cam: str) -> dict[str, float]:
        """Crank degrees of one tooth of each chain on the way to a cam; at either end of a chain it
        is one link, and so the same.
        """
        found: dict[str, float] = {}
        for contact in self.contacts():
            deg = self.jump_deg(contact)[cam]
            if deg > 0:
                found.setdefault(Contact.of(contact).chain, deg)
        return found

    def contacts(self) -> list[str]:
        """Every place where a chain can jump, ``chain/sprocket``."""
        return [
            str(Contact(c, s)) for c, d in self.chains.items() for s in [d.chain.driver, *d.driven]
        ]

    def cams_of(self, chain: str) -> list[str]:
        """Cams this chain turns, directly or through the chains it drives."""
        moved = self._with_followers({self._shaft(s) for s in self.chains[chain].driven})
        return [cam for cam in self.book.cams if cam in moved]

    def is_timed(self, chain: str) -> bool:
        """Whether a chain has a place to stand: a cam hangs on it, or links are counted on it."""
        return self.times_cams(chain) or bool(self.book.chains[chain].counts)

    def times_cams(self, chain: str) -> bool:
        """Whether any cam hangs on a chain; an oil pump's times nothing, so that no timing speaks
        of its wear.
        """
        return bool(self.cams_of(chain))

    def wear_of(self, faults: Faults, chain: str) -> ChainWear:
        """Wear of one chain and the faces it runs over."""
        faces = tuple((f, faults.liner_wear_mm.get(f, 0.0)) for f in self.chains[chain].faces)
        return ChainWear(faults.elongation_pct.get(chain, 0.0) / 100.0, faces)

    def shaft_late_deg(self, faults: Faults) -> tuple[dict[str, float], dict[str, float]]:
        """How much later every shaft that chains turn stands, crank degrees, and the plunger of
        every tensioned chain.
        """
        late = {k: 0.0 for k in self.crank_per_turn}
        plunger: dict[str, float] = {}
        for chain, drive in self.chains.items():
            wear = self.wear_of(faults, chain)
            if drive.has_tensioner:
                plunger[chain] = drive.plunger_mm(wear)
            driver = late[self._shaft(drive.chain.driver)]
            for sprocket, lag in drive.lags_deg(wear, plunger.get(chain, 0.0)).items():
                shaft = self._shaft(sprocket)
                late[shaft] = driver + lag * self.crank_per_turn[shaft]
        for contact, teeth in faults.jumped_teeth.items():
            tooth = self.tooth_deg(Contact.of(contact).sprocket)
            for shaft in self.moved_by(contact):
                late[shaft] += teeth * tooth
        return late, plunger

    def state(self, faults: Faults) -> DriveState:
        """Lags and plungers of a worn drive by the closed-form path solver."""
        late, plunger = self.shaft_late_deg(faults)
        return DriveState({cam: late[cam] for cam in self.book.cams}, plunger)


def clock_per_crank(train: DriveTrain, shaft: str, plane: str) -> float:
    """Clock degrees a shaft turns in a plane's view for one crank degree, clockwise positive."""
    running = 1.0 if train.book.planes[plane].running_direction == "clockwise" else -1.0
    return running / float(train.exact_ratio[shaft])
