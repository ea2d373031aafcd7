"""One step of a plan being done: the position it makes, and what is wrong with it there."""

from dataclasses import replace

from flaneur.core.book.references import task_observations
from flaneur.core.book.tasks import Effects, Observe, Task
from flaneur.core.keys import Contact, Verb
from flaneur.core.plan.cams import CamsInHand
from flaneur.core.plan.ground import task_of
from flaneur.core.plan.position import ConcernKind, Position
from flaneur.core.plan.sight import covers_of, is_seen
from flaneur.core.plan.stepping import NEAR_DEG
from flaneur.core.plan.tour import lies_over
from flaneur.core.plan.turning import Turning


class Doing(Turning, CamsInHand):
    """One step on its way: parts off and on, covers, marks, chains; cams and crank as well."""

    def done(self) -> Position:
        """The position after the step."""
        verb, key, task = self.verb, self.key, task_of(self.book, self.ref)
        if verb is Verb.REMOVE:
            self.at = replace(self.at, off=self.at.off | {key})
        elif verb is Verb.FIT:
            self._closing(key)
            bolted = {key} if self.book.components[key].fasteners else set[str]()
            self.at = replace(
                self.at, off=self.at.off - {key}, untorqued=self.at.untorqued | bolted
            )
        elif verb is Verb.TORQUE:
            self.turning(Effects())
            self.at = replace(self.at, untorqued=self.at.untorqued - {key})
            fit = self.book.components[key].fit.effects
            self.working([*fit.works, *fit.frees_taper], [key])
            self.at = replace(self.at, taper=self.at.taper - set(fit.frees_taper))
        if task is not None:
            self._effects(task)
        self.settle()
        return self.at

    def _closing(self, cover: str) -> None:
        """A cover goes on: nothing that must come out, be torqued or be turned lies under it."""
        for what, inside in self.at.inside.items():
            if cover in inside.under:
                self.concern(
                    ConcernKind.CLOSED_OVER,
                    f"{self.name(what)} is still in ({inside.count})",
                    "everything counted out before the cover goes on",
                    f"Take the {self.name(what)} out first.",
                )
        for key in sorted(self.at.untorqued):
            covered = cover in self.book.components[key].covered_by
            if covered and lies_over(self.book, key, cover):
                self.concern(
                    ConcernKind.UNTORQUED,
                    f"the bolts of {self.name(key)} are not torqued",
                    "torqued before they cannot be reached",
                    f"Torque {self.name(key)} first.",
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

    def _effects(self, task: Task) -> None:
        effects, verb, key = task.effects, self.verb, self.key
        hidden = [m for m in effects.reads if not is_seen(self.book, m, self.at.off)]
        for mark in [*hidden, *self._marks_hidden(task)]:
            self.concern(
                ConcernKind.UNSEEN,
                f"the {self.name(mark)} cannot be seen here",
                "a mark is no proof while its cover is on or its part is off",
                "Take the cover off first, or read another mark.",
            )
        self.turning(effects)
        if effects.locks_crank or effects.frees_crank:
            self.at = replace(self.at, is_locked=effects.locks_crank)
        for what, count in effects.puts_in.items():
            self.at = self.at.put_in(what, count, tuple(effects.under))
        for what, count in effects.takes_out.items():
            self.at = self.at.take_out(what, count)
        self.holding(effects)
        self.working(effects.works, effects.loosened if verb is Verb.OPERATION else [key])
        self._tension(effects)
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

    def _marks_hidden(self, task: Task) -> list[str]:
        """Marks that an answer of the task shows, where none on the wheel can be seen. What goes on
        together with the part is on by then.
        """
        off = self.at.off
        if self.verb is Verb.FIT:
            own = self.book.components[self.key]
            with_it = {k for k in own.covered_by if self.book.components[k].part}
            off -= {
                k
                for k in off
                if k in with_it
                or k in own.comes_with
                or self.key in self.book.components[k].comes_with
            }
        found: list[str] = []
        for observe in task_observations(task):
            wheel = _wheel_of(observe)
            marks = [k for k, m in self.book.marks.items() if m.wheel == wheel and m.is_timing]
            if marks and not any(is_seen(self.book, m, off) for m in marks):
                found.append(marks[0])
        return found

    def _tension(self, effects: Effects) -> None:
        """Chains that come off, go on, hang slack or are tensioned by this step."""
        book, at = self.book, self.at
        verb = self.verb
        part = book.components[self.key].part if verb is not Verb.OPERATION else None
        slackens = set(effects.slackens)
        if verb is Verb.REMOVE:
            slackens |= {a.chain for k, a in book.arms.items() if part in (k, a.tensioner)}
        off = set(effects.chains_off)
        if verb is Verb.REMOVE and part in book.chains:
            off.add(part)
        laid = set(effects.chains_on)
        if verb is Verb.FIT and part in book.chains:
            laid.add(part)
        # A sprocket hung back into its chain stands where the chain is timed, as the chain does.
        hung = {c for c in at.slack if verb is Verb.FIT and part in book.chains[c].loop}
        for chain in sorted((laid | hung - slackens) & self.ground.timed):
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
        timed = f"the {self.name(chain)} is timed"
        way_out = "Bring the crank there before it is laid."
        crank = self.at.crank_deg
        if self.misplaced(self.ground.position_of(chain), timed, way_out) or crank is None:
            return
        for cam in sorted(self.book.shafts_on(chain) & set(self.at.places)):
            low, high = self.at.places[cam]
            if low - NEAR_DEG <= crank <= high + NEAR_DEG:
                continue
            if cam in self.at.held:
                self.concern(
                    ConcernKind.OUT_OF_PLACE,
                    f"{self.name(cam)} is held at {(low + high) / 2 % 720:.0f}°",
                    f"{crank:g}°, where the chain is laid",
                    "Bring the cam to its mark first.",
                )
            elif self.ground.loose:
                swept = {**self.at.places, cam: (min(low, crank), max(high, crank))}
                met = self.ground.loose.met(self.at, swept)
                self.meets(met, f"{self.name(cam)} is brought to its mark")


def _wheel_of(observe: Observe) -> str | None:
    if observe.kind != "mark" or not observe.contact:
        return None
    return Contact.of(observe.contact).sprocket
