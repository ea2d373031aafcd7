"""What a step does to cams: held, let go, worked at, swinging to where they may be."""

from dataclasses import replace

from flaneur.core.book.tasks import Effects
from flaneur.core.clearance.loosened import Tight
from flaneur.core.clearance.swing import Swing
from flaneur.core.keys import Verb
from flaneur.core.plan.loose import MAY_MOVE_DEG, LooseCams
from flaneur.core.plan.position import ConcernKind, Place
from flaneur.core.plan.stepping import Stepping


class CamsInHand(Stepping):
    """A step as far as it holds cams or lets them go."""

    def holding(self, effects: Effects) -> None:
        """Cams that are held or let go, followers that come out or go back."""
        held, places = dict(self.at.held), dict(self.at.places)
        tool = self.book.tools.get(effects.by) if effects.by else None
        for cam in effects.holds:
            where = self.at.crank_deg
            if tool is not None and tool.crank_deg is not None:
                fits = f"the {self.name(cam)} fits it"
                self.misplaced(tool.crank_deg, fits, "Bring the crank there first.")
            held[cam] = effects.by or "held"
            if cam in places and self.ground.loose and where is not None:
                places[cam] = self.ground.loose.held_place(self.at, cam, effects.by, where)
        for cam in effects.lets_go:
            held.pop(cam, None)
        out = {**self.at.followers_out}
        for group, cylinders in effects.followers_out.items():
            out[group] = tuple(cylinders)
        for group in effects.followers_in:
            out.pop(group, None)
        self.at = replace(self.at, held=held, places=places, followers_out=out)

    def working(self, cams: list[str], of: list[str]) -> None:
        """A stretched bolt of these cams is worked. It breaks loose with a jerk, so that the cam is
        taken to slip and to go where its springs drive it, whatever holds it; turned tight, it is
        trusted to a tool seated on the cam.
        """
        loose = self.ground.loose
        verb, known = self.verb, self.book.components
        bolts = [f for c in of if c in known for f in known[c].fasteners]
        is_stretched = any(s.kind == "angle" for f in bolts for s in self.book.fasteners[f].stages)
        is_jerked = is_stretched and verb is not Verb.FIT
        if verb is Verb.REMOVE and self.key in self.at.loosened:
            return  # it was broken loose while the chain was taut
        if loose is None or self.at.crank_deg is None or not is_jerked:
            return
        for cam in cams:
            tool = self.book.tools.get(self.at.held.get(cam, ""))
            is_seated = tool is not None and tool.crank_deg is not None
            if cam not in self.ground.free_cams(self.at) or (verb is Verb.TORQUE and is_seated):
                continue
            met = loose.slipped(self.at, cam)
            if met is not None:
                self.concern(
                    ConcernKind.SLIPS,
                    f"{self.name(cam)} may slip while its bolt is worked: {met.what}",
                    "the crank where a slip meets nothing",
                    "Roll the crank away from the top first.",
                    met.room_mm,
                )

    def settle(self) -> None:
        """Cams that nothing drives any more go where they go; those driven again have no place of
        their own.
        """
        loose = self.ground.loose
        free = self.ground.free_cams(self.at)
        if loose is None or self.at.crank_deg is None:
            if free - set(self.at.held) and loose is not None:
                self.concern(
                    ConcernKind.TOUCHES,
                    "a cam is let go with the crank nobody knows where: treat as touching",
                    "the service position found first",
                    "Find the position first.",
                )
            return
        places: dict[str, Place] = {}
        swung = dict(self.at.swung)
        for group in loose.groups(self.at):
            found, swings = self._places(loose, group)
            places |= found
            if swings:
                ways = min(s.back_deg for s in swings), max(s.on_deg for s in swings)
                swung |= dict.fromkeys(group, ways)
        self.at = replace(
            self.at,
            places={c: p for c, p in places.items() if c in free},
            swung={c: w for c, w in swung.items() if c in free and c not in self.at.held},
        )
        if self.at.places:
            self.meets(loose.met(self.at, self.at.places), "a cam is loose here")

    def _places(
        self, loose: LooseCams, group: tuple[str, ...]
    ) -> tuple[dict[str, Place], list[Swing]]:
        """Where the cams of a group may be, with the swings that took them there, and whether
        letting them go is foreseen.
        """
        assert self.at.crank_deg is not None
        known = {cam: self.at.places[cam] for cam in group if cam in self.at.places}
        stood = loose.groups(self.before)
        if len(known) == len(group) and group in stood and self.at.kept == self.before.kept:
            return known, []  # nothing has changed for them: they rest where they are
        holders = [cam for cam in group if cam in self.at.held]
        if holders:
            return {cam: known.get(cam) or self._kept(loose, cam, holders[0]) for cam in group}, []
        starts = (
            sorted({end for place in known.values() for end in place})
            if len(known) == len(group)
            else [self.at.crank_deg]
        )
        swings = [loose.swing(self.at, group, start) for start in starts]
        far = max(swings, key=lambda s: max(-s.back_deg, s.on_deg))
        if not known and max(-far.back_deg, far.on_deg) > MAY_MOVE_DEG:
            self.concern(
                ConcernKind.JUMPS,
                f"{' and '.join(self.name(c) for c in group)} may swing from {far.back_deg:+.0f}° "
                f"to {far.on_deg:+.0f}° of its own when it is let go",
                "held, or its followers out",
                "Hold it first.",
            )
        if len(known) < len(group):
            return {cam: swings[0].places[cam] for cam in group}, swings
        reached = {
            cam: (
                min([place[0], *(s.places[cam][0] for s in swings)]),
                max([place[1], *(s.places[cam][1] for s in swings)]),
            )
            for cam, place in known.items()
        }
        return reached, swings

    def _kept(self, loose: LooseCams, cam: str, holder: str) -> Place:
        """Where a cam stands that is held, or tied to one that is."""
        assert self.at.crank_deg is not None
        tool = self.at.held.get(cam) or self.at.held[holder]
        return loose.held_place(self.at, cam, tool, self.at.crank_deg)

    def meets(self, met: Tight | None, when: str) -> None:
        """Note what comes within the reserve, and when."""
        if met is not None:
            room = "room unknown" if met.room_mm is None else f"{met.room_mm:g} mm of room"
            kept = self.ground.loose.contacts.reserve_mm if self.ground.loose else 0.0
            self.concern(
                ConcernKind.TOUCHES,
                f"{when}: {met.what}, {room}",
                f"at least {kept:g} mm",
                "Hold the cam, or bring the crank where it meets nothing.",
                met.room_mm,
            )
