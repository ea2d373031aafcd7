"""One step of a plan being done: the position it makes, and what is wrong with it there."""

from dataclasses import replace

from flaneur.core.book.tasks import Effects, Observe, Task
from flaneur.core.clearance.loosened import Tight
from flaneur.core.clearance.swing import Swing
from flaneur.core.keys import Contact, StepRef, Verb
from flaneur.core.plan.ground import Ground
from flaneur.core.plan.loose import MAY_MOVE_DEG, LooseCams
from flaneur.core.plan.position import Concern, ConcernKind, Place, Position
from flaneur.core.plan.sight import covers_of, is_seen
from flaneur.core.wording import within

NEAR_DEG = 3.0
FULL_TURN = 360.0


class Doing:
    """One step on its way: the position it makes, and what is wrong with it."""

    def __init__(self, ground: Ground, ref: str, before: Position) -> None:
        self.ground, self.book, self.ref = ground, ground.book, ref
        self.at = self.before = before
        self.stood = ground.loose.groups(before) if ground.loose else []
        self.concerns: list[Concern] = []

    def concern(
        self,
        kind: ConcernKind,
        found: str,
        expected: str,
        way_out: str,
        room_mm: float | None = None,
    ) -> None:
        """Note what is wrong."""
        self.concerns.append(
            Concern(
                step=self.ref,
                kind=kind,
                found=found,
                expected=expected,
                way_out=way_out,
                room_mm=room_mm,
            )
        )

    def done(self) -> Position:
        """The position after the step."""
        verb, key = StepRef.of(self.ref)
        task = self.ground.task(self.ref)
        if verb is Verb.REMOVE:
            self.at = replace(self.at, off=self.at.off | {key})
        elif verb is Verb.FIT:
            self._closing(key)
            bolted = {key} if self.book.components[key].fasteners else set[str]()
            self.at = replace(
                self.at, off=self.at.off - {key}, untorqued=self.at.untorqued | bolted
            )
        elif verb is Verb.TORQUE:
            self.at = replace(self.at, untorqued=self.at.untorqued - {key})
            fit = self.book.components[key].fit.effects
            self._working([*fit.works, *fit.frees_taper], [key])
            self.at = replace(self.at, taper=self.at.taper - set(fit.frees_taper))
        if task is not None:
            self._effects(key, verb, task)
        self._settle()
        return self.at

    def _name(self, key: str) -> str:
        for group in (self.book.components, self.book.tools, self.book.shafts, self.book.marks):
            if key in group:
                return within(group[key].name)
        return key

    # What a cover closes over -----------------------------------------------------------------

    def _closing(self, cover: str) -> None:
        """A cover goes on: nothing that must come out, be torqued or be turned lies under it."""
        for what, inside in self.at.inside.items():
            if cover in inside.under:
                self.concern(
                    ConcernKind.CLOSED_OVER,
                    f"{self._name(what)} is still in ({inside.count})",
                    "everything counted out before the cover goes on",
                    f"Take the {self._name(what)} out first.",
                )
        for key in sorted(self.at.untorqued):
            if cover in self.book.components[key].covered_by:
                self.concern(
                    ConcernKind.UNTORQUED,
                    f"the bolts of {self._name(key)} are not torqued",
                    "torqued before they cannot be reached",
                    f"Torque {self._name(key)} first.",
                )
        if self.at.is_turn_due and self._covers_timing(cover):
            self.concern(
                ConcernKind.NOT_TURNED,
                "the engine has not been turned by hand since a chain was laid",
                "two crank turns by hand, marks read, before the cover goes on",
                "Turn it by hand first.",
            )

    def _covers_timing(self, cover: str) -> bool:
        parts = [c for chain in self.ground.timed for c in self.ground.chains[chain]]
        return any(cover in covers_of(self.book, part) for part in parts)

    # What a task does -------------------------------------------------------------------------

    def _effects(self, key: str, verb: Verb, task: Task) -> None:
        effects = task.effects
        hidden = [m for m in effects.reads if m in self.book.marks]
        hidden = [m for m in hidden if not is_seen(self.book, m, self.at.off)]
        for mark in [*hidden, *self._marks_hidden(key, verb, task)]:
            self.concern(
                ConcernKind.UNSEEN,
                f"the {self._name(mark)} cannot be seen here",
                "a mark is no proof while its cover is on or its part is off",
                "Take the cover off first, or read another mark.",
            )
        self._turning(effects)
        if effects.locks_crank or effects.frees_crank:
            self.at = replace(self.at, is_locked=effects.locks_crank)
        for what, count in effects.puts_in.items():
            self.at = self.at.put_in(what, count, tuple(effects.under))
        for what, count in effects.takes_out.items():
            self.at = self.at.take_out(what, count)
        self._holding(effects)
        self._working(effects.works, effects.loosened if verb is Verb.OPERATION else [key])
        self._tension(key, verb, effects)
        self.at = replace(self.at, loosened=self.at.loosened | set(effects.loosened))
        locked = self.at.phasers_locked | set(effects.phasers_locked)
        part = self.book.components[key].part if verb in (Verb.FIT, Verb.REMOVE) else None
        if part in self.book.phasers:
            locked = locked | {part} if verb is Verb.FIT else locked - {part}
        self.at = replace(
            self.at,
            phasers_locked=locked,
            owed=(self.at.owed | set(effects.owes)) - set(effects.pays),
        )

    def _marks_hidden(self, key: str, verb: Verb, task: Task) -> list[str]:
        """Marks that an answer of the task shows, where none on the wheel can be seen. What goes on
        together with the part is on by then.
        """
        off = self.at.off
        if verb is Verb.FIT:
            own = self.book.components[key]
            with_it = {k for k in own.covered_by if self.book.components[k].part}
            off -= {
                k
                for k in off
                if k in with_it or k in own.comes_with or key in self.book.components[k].comes_with
            }
        found: list[str] = []
        for observe in [*([task.observe] if task.observe else []), *task.observes]:
            wheel = _wheel_of(observe)
            marks = [k for k, m in self.book.marks.items() if m.wheel == wheel and m.is_timing]
            if marks and not any(is_seen(self.book, m, off) for m in marks):
                found.append(marks[0])
        return found

    def _turning(self, effects: Effects) -> None:
        rolls, to, turns = effects.crank_by_deg, effects.crank_to_deg, effects.full_turns
        if rolls is None and to is None and not turns:
            return
        if effects.turned_by is not None and effects.turned_by in self.at.off:
            self.concern(
                ConcernKind.UNREACHED,
                f"{self._name(effects.turned_by)} is off",
                "something on the crank to turn it by",
                "Turn at the crank itself: the old bolt with a spacer.",
            )
        for cam in self.ground.held_driven(self.at)[:1]:
            self.concern(
                ConcernKind.STILL_IN,
                f"{self._name(self.at.held[cam])} holds {self._name(cam)}, which the crank drives",
                "nothing holding a driven cam while the crank turns",
                "Take it off first.",
            )
        for chain in self._dragged() if not effects.keeps_taut else []:
            self.concern(
                ConcernKind.STILL_IN,
                f"the {within(self.book.chains[chain].name)} is on without tension",
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
            left = [self._name(k) for k in [*self.at.inside, *sorted(self.at.owed)]]
            self.concern(
                ConcernKind.STILL_IN,
                f"still in the engine: {', '.join(left)}",
                "everything counted out before the crank turns",
                "Take it out and count.",
            )
        if rolls is not None:
            self._rolled(rolls)
        if turns:
            self._turned(turns)
        if to is not None:
            self._brought(to)

    def _dragged(self) -> list[str]:
        """Timed chains without tension that the crank would drag along: all they run over is on."""
        found: list[str] = []
        for chain in sorted(self.at.slack & self.ground.timed):
            loop = self.book.chains[chain].loop
            shafts = {self.book.sprockets[s].shaft for s in loop if s in self.book.sprockets}
            phasers = {p for p, phaser in self.book.phasers.items() if phaser.shaft in shafts}
            wheels = [k for k, c in self.book.components.items() if c.part in {*loop, *phasers}]
            faces = {*self.book.guides, *self.book.arms}
            is_hanging = any(
                k in self.at.off for k in wheels if self.book.components[k].part not in faces
            )
            found += [] if is_hanging or shafts & self.at.taper else [chain]
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
        self.at = replace(self.at, crank_deg=(self.at.crank_deg + deg) % 720.0)

    def _turned(self, turns: int) -> None:
        self._sweeps(FULL_TURN * turns)
        if not self.ground.free_cams(self.at) and turns * FULL_TURN >= 2 * FULL_TURN:
            self.at = replace(self.at, is_turn_due=False)

    def _brought(self, to: float) -> None:
        if self.at.crank_deg is not None:
            self._sweeps((to - self.at.crank_deg) % 720.0)
        elif self.ground.free_cams(self.at):
            self._sweeps(2 * FULL_TURN)
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
        elif not (arc.back_deg <= deg or arc.back_deg <= -FULL_TURN) or not (
            deg <= arc.on_deg or arc.on_deg >= FULL_TURN
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

    # Holding and letting go -------------------------------------------------------------------

    def _holding(self, effects: Effects) -> None:
        held, places = dict(self.at.held), dict(self.at.places)
        tool = self.book.tools.get(effects.by) if effects.by else None
        for cam in effects.holds:
            where = self.at.crank_deg
            if where is None or (
                tool is not None
                and tool.crank_deg is not None
                and abs((where - tool.crank_deg + 360) % 720 - 360) > NEAR_DEG
            ):
                self.concern(
                    ConcernKind.OUT_OF_PLACE,
                    f"the crank stands at {'no known angle' if where is None else f'{where:g}°'}",
                    f"{tool.crank_deg if tool else 0:g}°, where the {self._name(cam)} fits it",
                    "Bring the crank there first.",
                )
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

    def _working(self, cams: list[str], of: list[str]) -> None:
        """A stretched bolt of these cams is worked. It breaks loose with a jerk, so that the cam is
        taken to slip and to go where its springs drive it, whatever holds it; turned tight, it is
        trusted to a tool seated on the cam.
        """
        loose = self.ground.loose
        verb, key = StepRef.of(self.ref)
        known = self.book.components
        bolts = [f for c in of if c in known for f in known[c].fasteners]
        is_stretched = any(s.kind == "angle" for f in bolts for s in self.book.fasteners[f].stages)
        is_jerked = is_stretched and verb is not Verb.FIT
        if verb is Verb.REMOVE and key in self.at.loosened:
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
                    f"{self._name(cam)} may slip while its bolt is worked: {met.what}",
                    "the crank where a slip meets nothing",
                    "Roll the crank away from the top first.",
                    met.room_mm,
                )

    # Chains -----------------------------------------------------------------------------------

    def _tension(self, key: str, verb: Verb, effects: Effects) -> None:
        """Chains that come off, go on, hang slack or are tensioned by this step."""
        book, at = self.book, self.at
        part = book.components[key].part if verb is not Verb.OPERATION else None
        slackens = set(effects.slackens)
        if verb is Verb.REMOVE:
            slackens |= {a.chain for k, a in book.arms.items() if part in (k, a.tensioner)}
        off = set(effects.chains_off)
        if verb is Verb.REMOVE and part in book.chains:
            off.add(part)
        laid = set(effects.chains_on)
        if verb is Verb.FIT and part in book.chains:
            laid.add(part)
        for chain in sorted(laid & self.ground.timed):
            self._laid(chain)
        slack = (at.slack | slackens) - off
        slack |= {c for c in laid if book.arm_of(c)}
        slack -= set(effects.tightens)
        timed = (slackens | laid | set(effects.tightens)) & self.ground.timed
        self.at = replace(
            self.at,
            chains_off=(at.chains_off | off) - laid,
            slack=frozenset(slack),
            taper=at.taper | set(effects.frees_taper),
            is_turn_due=self.at.is_turn_due or bool(timed),
        )

    def _laid(self, chain: str) -> None:
        """A timed chain goes on: crank and cams stand where it is timed."""
        wanted, crank = self.ground.position_of(chain), self.at.crank_deg
        if crank is None or abs((crank - wanted + 360) % 720 - 360) > NEAR_DEG:
            self.concern(
                ConcernKind.OUT_OF_PLACE,
                f"the crank stands at {'no known angle' if crank is None else f'{crank:g}°'}",
                f"{wanted:g}°, where the {self.book.chains[chain].name} is timed",
                "Bring the crank there before it is laid.",
            )
            return
        loop = self.book.chains[chain].loop
        shafts = {self.book.sprockets[s].shaft for s in loop if s in self.book.sprockets}
        for cam in sorted(shafts & set(self.at.places)):
            low, high = self.at.places[cam]
            if low - NEAR_DEG <= crank <= high + NEAR_DEG:
                continue
            if cam in self.at.held:
                self.concern(
                    ConcernKind.OUT_OF_PLACE,
                    f"{self._name(cam)} is held at {(low + high) / 2 % 720:.0f}°",
                    f"{crank:g}°, where the chain is laid",
                    "Bring the cam to its mark first.",
                )
            elif self.ground.loose:
                swept = {**self.at.places, cam: (min(low, crank), max(high, crank))}
                self._meets(self.ground.loose.met(self.at, swept), f"{self._name(cam)} is brought "
                            "to its mark")  # fmt: skip

    # What follows -----------------------------------------------------------------------------

    def _settle(self) -> None:
        """Cams that nothing drives any more go where they go; those driven again have no place of
        their own.
        """
        loose = self.ground.loose
        free = self.ground.free_cams(self.at)
        if loose is None or self.at.crank_deg is None:
            if free - set(self.at.held) and loose is not None:
                self.concern(
                    ConcernKind.OUT_OF_PLACE,
                    "a cam is let go with the crank nobody knows where",
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
            self._meets(loose.met(self.at, self.at.places), "a cam is loose here")

    def _places(
        self, loose: LooseCams, group: tuple[str, ...]
    ) -> tuple[dict[str, Place], list[Swing]]:
        """Where the cams of a group may be, with the swings that took them there, and whether
        letting them go is foreseen.
        """
        assert self.at.crank_deg is not None
        known = {cam: self.at.places[cam] for cam in group if cam in self.at.places}
        if len(known) == len(group) and group in self.stood and self.at.kept == self.before.kept:
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
                f"{' and '.join(self._name(c) for c in group)} may swing from {far.back_deg:+.0f}° "
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

    def _meets(self, met: Tight | None, when: str) -> None:
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


def _wheel_of(observe: Observe) -> str | None:
    if observe.kind != "mark" or not observe.contact:
        return None
    return Contact.of(observe.contact).sprocket
