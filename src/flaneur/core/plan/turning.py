"""What turning the crank does in a step: by what, past what, and how far it may."""

from dataclasses import replace

from flaneur.core.book.tasks import Effects
from flaneur.core.plan.position import WHOLE_TURN, ConcernKind
from flaneur.core.plan.stepping import CYCLE_DEG, Stepping
from flaneur.core.plan.tour import tour_of, toured


class Turning(Stepping):
    """A step as far as it turns the crank."""

    def turning(self, effects: Effects) -> None:
        """Whatever the step turns: nothing that must come out is in, and nothing touches."""
        rolls, to, turns = effects.crank_by_deg, effects.crank_to_deg, effects.full_turns
        rounds = toured(self.book, self.ref)
        if rolls is None and to is None and not turns and not rounds:
            return
        if effects.turned_by is not None and effects.turned_by in self.at.off:
            self.concern(
                ConcernKind.UNREACHED,
                f"{self.name(effects.turned_by)} is off",
                "something on the crank to turn it by",
                "Turn at the crank itself: the old bolt with a spacer.",
            )
        for cam in self.ground.held_driven(self.at)[:1]:
            self.concern(
                ConcernKind.STILL_IN,
                f"{self.name(self.at.held[cam])} holds {self.name(cam)}, which the crank drives",
                "nothing holding a driven cam while the crank turns",
                "Take it off first.",
            )
        for chain in self._dragged() if not effects.keeps_taut else []:
            self.concern(
                ConcernKind.STILL_IN,
                f"the {self.name(chain)} is on without tension",
                "every chain taut, off or hanging free while the crank turns",
                "Take it off, or tension it first.",
            )
        if self.at.is_locked:
            self.concern(
                ConcernKind.STILL_IN,
                "the crank is locked",
                "its lock out before it turns",
                "Take the lock out first.",
            )
        if turns and (self.at.inside or self.at.owed):
            left = [self.name(k) for k in [*self.at.inside, *sorted(self.at.owed)]]
            self.concern(
                ConcernKind.STILL_IN,
                f"still in the engine: {', '.join(left)}",
                "everything counted out before the crank turns",
                "Take it out and count.",
            )
        if rolls is not None:
            self._rolled(rolls)
        if rounds:
            self._toured(rounds)
            return
        if turns:
            self._turned(turns)
        if to is not None:
            self._brought(to)

    def _dragged(self) -> list[str]:
        """Timed chains without tension that the crank would drag along: all they run over is on."""
        found: list[str] = []
        for chain in sorted(self.at.slack & self.ground.timed):
            wheels = self.book.wheels_on(chain)
            is_hanging = any(self.book.components[k].part in wheels for k in self.at.off)
            is_slipping = self.book.shafts_on(chain) & self.at.taper
            found += [] if is_hanging or is_slipping else [chain]
        return found

    def _rolled(self, deg: float) -> None:
        if self.at.crank_deg is None:
            self.concern(
                ConcernKind.TURNS_TOO_FAR,
                "rolled from where nobody knows",
                "the service position found first",
                "Find the position first.",
            )
            return
        self._sweeps(deg)
        self.at = replace(self.at, crank_deg=(self.at.crank_deg + deg) % CYCLE_DEG)

    def _toured(self, fastener: str) -> None:
        """From bolt to bolt: from where it stands, or a whole cycle where nobody knows."""
        tour = tour_of(self.book, self.ref, self.at.crank_deg)
        if tour is None:
            way_out = "Bring the crank to a known position before its bolts are sought."
            self.misplaced(
                self.book.service_position.crank_deg,
                f"the first of the {self.name(fastener)} is reached",
                way_out,
            )
            return
        if self.at.crank_deg is None and self.ground.free_cams(self.at):
            self._sweeps(CYCLE_DEG)
        self._sweeps(tour.turned_deg)
        last = tour.stops[-1].crank_deg + tour.on_deg
        self.at = replace(self.at, crank_deg=last % CYCLE_DEG)

    def _turned(self, turns: int) -> None:
        self._sweeps(WHOLE_TURN * turns)
        if not self.ground.free_cams(self.at) and turns >= self.book.proof.hand_turns:
            self.at = replace(self.at, is_turn_due=False)

    def _brought(self, to: float) -> None:
        if self.at.crank_deg is not None:
            self._sweeps((to - self.at.crank_deg) % CYCLE_DEG)
        elif self.ground.free_cams(self.at):
            self._sweeps(CYCLE_DEG)
        self.at = replace(self.at, crank_deg=to)

    def _sweeps(self, deg: float) -> None:
        """Whether the crank may turn so far with the cams as they are."""
        if not self.ground.free_cams(self.at) or not deg:
            return
        is_known = self.ground.loose is not None and self.at.crank_deg is not None
        arc = self.ground.loose.arc(self.at) if self.ground.loose and is_known else None
        if arc is None:
            self.concern(
                ConcernKind.TURNS_TOO_FAR,
                f"turns {deg:g}° with a cam loose, and nobody knows how far it may",
                "no turn: unknown is touching",
                "Lay the chains first.",
            )
        elif not (arc.back_deg <= deg or arc.back_deg <= -WHOLE_TURN) or not (
            deg <= arc.on_deg or arc.on_deg >= WHOLE_TURN
        ):
            limit = arc.limits[deg > 0]
            self.concern(
                ConcernKind.TURNS_TOO_FAR,
                f"turns {deg:+g}°, {limit.what if limit else 'a valve'} from "
                f"{arc.on_deg if deg > 0 else arc.back_deg:+g}° on",
                f"from {arc.back_deg:+g}° to {arc.on_deg:+g}°",
                "Turn no further, or hold the cams first.",
                limit.room_mm if limit else None,
            )
