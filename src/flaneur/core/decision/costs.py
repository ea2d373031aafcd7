"""What each action costs in each engine that may be this one: work, parts, standing still, coming
back, failing on the road.

The cost of an action in one engine = its work and parts + the hours it stands + what follows: an
engine that is not put right comes back, and what then puts it right for least is paid as well; a
part left in may fail within the hours a repair is answered for, by how far it is worn then.
"""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.actions import Action, ActionKind
from flaneur.core.decision.rates import Parts, Rates, School, Sprockets, failure_cost
from flaneur.core.diagnosis.ensemble import Ensemble
from flaneur.core.diagnosis.wear import SERVICE_HOURS_UNKNOWN
from flaneur.core.keys import Contact, SuspectKind
from flaneur.core.trend.failing import fails

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
FAILS_OF = {SuspectKind.JUMP: 0.25, SuspectKind.GONE: 0.35, SuspectKind.STUCK: 0.2}
FAILS_LEAKING = 0.05
NOTICED, UNNOTICED = 0.9, 0.3  # come back with a noise or a code left, all cams in tolerance
LOUD_SHARE, YOUNGEST_H = 1.25, 50.0
HOOKED_SHARE, HOOKED_COMEBACK = 1.5, 0.1  # a chain so worn has worn its sprockets
OF_PHASER = (
    SuspectKind.SLOW,
    SuspectKind.DRIFTS,
    SuspectKind.HUNTS,
    SuspectKind.LOCK_PIN,
)


@dataclass(frozen=True)
class Weighed:
    """Actions in R engines: ``cost``, ``restored`` and ``fails`` (A, R): money, whether every cam
    comes back into tolerance, and how likely the engine fails within the hours answered for.
    """

    actions: list[Action]
    cost: Floats
    restored: Bools
    fails: Floats


@dataclass(frozen=True)
class _Worn:
    """Engines with some parts new: wear (R, items), how late it makes each cam (R, cams), what of
    it is heard (R,); by hours after which, what is over its limit and how likely it has failed.
    """

    wear: Floats
    late: Floats
    is_loud: Bools
    over: dict[float, Bools] = field(default_factory=dict[float, Bools])
    holds: dict[float, Floats] = field(default_factory=dict[float, Floats])


@dataclass(frozen=True)
class _After:
    """Engines after an action, (R,) each: every cam in tolerance; nothing left in the drive, and
    nothing ``outside`` it, that brings it back; how likely what is not wear fails; new chains on
    worn sprockets.
    """

    worn: _Worn
    restored: Bools
    inside: Bools
    outside: Bools
    abrupt_fails: Floats
    hooked: Bools

    @property
    def works(self) -> Bools:
        """Nothing is left that brings it back, (R,)."""
        return self.inside & self.outside


@dataclass(frozen=True)
class Reckoning:
    """Everything costs are worked out from. ``is_noticed``: somebody heard it, or codes are set."""

    engines: Ensemble
    rates: Rates
    school: School
    hours: float | None
    is_noticed: bool = False
    _kept: dict[frozenset[str], _Worn] = field(
        default_factory=dict[frozenset[str], _Worn], compare=False, repr=False
    )
    _seen: dict[Action, _After] = field(
        default_factory=dict[Action, _After], compare=False, repr=False
    )

    def weigh(self, actions: list[Action]) -> Weighed:
        """Costs of the actions, each in every engine."""
        for action in actions:
            if action not in self._seen:
                self._seen[action] = self._after(action)
        after = [self._seen[a] for a in actions]
        outlays = np.array([self.outlay(a) for a in actions])
        cost = np.empty((len(actions), len(self.engines)))
        fails = np.empty_like(cost)
        elsewhere = [
            o for a, o in zip(actions, outlays, strict=True) if a.kind is ActionKind.ELSEWHERE
        ]
        beside = min(elsewhere, default=np.inf)
        mended = {
            h: self._mended(after, outlays, beside, h) for h in {0.0, *(a.after_h for a in actions)}
        }
        for i, (action, found) in enumerate(zip(actions, after, strict=True)):
            fails[i] = self._fails(found, self.rates.horizon_h)
            later = mended[action.after_h]
            cost[i] = outlays[i] + self._follows(
                action, found, outlays[i], mended[0.0], later, fails[i]
            )
        return Weighed(actions, cost, np.stack([a.restored for a in after]), fails)

    def _mended(
        self, after: list[_After], outlays: Floats, beside: float, after_h: float
    ) -> Floats:
        """What puts each engine right for least, so that nothing is over its limit after so many
        hours, (R,); what is wrong outside the drive is put right ``beside`` it. With no action that
        does, the dearest.
        """
        is_right = np.stack([a.restored & a.inside & ~self._over(a.worn, after_h) for a in after])
        more = np.where(np.stack([a.outside for a in after]), 0.0, beside)
        mends = np.where(is_right, outlays[:, None] + more, np.inf)
        return np.minimum(mends.min(axis=0), outlays.max())

    @property
    def _book(self) -> EngineBook:
        return self.engines.book

    @property
    def _limits(self) -> Floats:
        return np.array([item.limit for item in self.engines.items])

    @property
    def _failure(self) -> float:
        return failure_cost(self.rates, self._book)

    def outlay(self, action: Action) -> float:
        """Work, parts, and the hours the unit stands."""
        rates = self.rates
        cheaper = self.school.parts is Parts.AFTERMARKET and action.renewed
        price = action.price * (rates.aftermarket_price if cheaper else 1.0)
        hours = action.minutes / 60
        stands = (action.minutes + action.waiting_minutes) / 60
        lost = len(action.locked) * rates.lockout_loss
        return hours * rates.labour_per_h + stands * rates.downtime_per_h + price + lost

    def _worn(self, renewed: frozenset[str]) -> _Worn:
        """Engines with these parts new."""
        engines = self.engines
        new = renewed & {item.key for item in engines.items}
        if new not in self._kept:
            is_old = np.array([item.key not in new for item in engines.items])
            wear = engines.wear * is_old
            slack = np.array([item.kind != "guide" for item in engines.items])
            loud = np.asarray((wear > LOUD_SHARE * self._limits)[:, slack].any(axis=1), dtype=bool)
            self._kept[new] = _Worn(wear, engines.bare_late(wear), loud)
        return self._kept[new]

    def _after(self, action: Action) -> _After:
        engines, book = self.engines, self._book
        number = len(engines)
        if action.kind is ActionKind.RETIRE:
            new = self._worn(frozenset(item.key for item in engines.items))
            no = np.zeros(number, dtype=bool)
            return _After(new, ~no, ~no, ~no, np.zeros(number), no)
        worn = self._worn(action.renewed)
        kept = np.array([not _is_mended(f.key.kind, f.key.part, action) for f in engines.faults])
        abrupt = engines.abrupt & kept
        moved = np.array([p not in action.replaced for p in book.phasers], dtype=bool)
        late = worn.late + engines.moved(engines.offset * moved, abrupt)
        shown = late + np.where(self._wheels_right(action), 0.0, engines.wheel)
        limit = book.limits.cam_deviation_deg
        restored = (np.abs(shown) <= limit).all(axis=1) & ~engines.is_none
        inside = ~(worn.is_loud | self._left_inside(action, abrupt))
        outside = ~self._left_outside(action)
        fails = self._abrupt_fails(action, abrupt)
        return _After(worn, restored, inside, outside, fails, self._hooked(action))

    def _wheels_right(self, action: Action) -> Bools:
        """Whether each cam's reading is right of tone wheels after the action, (R, cams): its own
        was set, or the crank's where that had slipped.
        """
        book, engines = self._book, self.engines
        shafts = {book.tone_wheels[w].shaft for w in action.wheels}
        found = np.zeros((len(engines), len(book.cams)), dtype=bool)
        found |= np.array([cam in shafts for cam in book.cams])
        for wheel in action.wheels:
            if book.tone_wheels[wheel].shaft not in book.cams:
                found |= engines.has(SuspectKind.TONE, wheel)[:, None]
        return found

    def _left_inside(self, action: Action, abrupt: Bools) -> Bools:
        """Whether anything is left in the drive that is heard, or that sets a code."""
        engines, book = self.engines, self._book
        wrong = engines.has(SuspectKind.SEIZED).copy()
        for tensioner in book.tensioners:
            if tensioner not in action.renewed:
                wrong |= engines.has(SuspectKind.LEAK, tensioner)
        for phaser in book.phasers:
            if phaser not in action.replaced:
                for kind in OF_PHASER:
                    wrong |= engines.has(kind, phaser)
        for i, fault in enumerate(engines.faults):
            if fault.key.kind in (SuspectKind.GONE, SuspectKind.STUCK):
                wrong |= abrupt[:, i]
        return wrong

    def _left_outside(self, action: Action) -> Bools:
        """The same of what is outside it: oil, accessories, sensors."""
        engines, book = self.engines, self._book
        if action.outside:
            return np.zeros(len(engines), dtype=bool)
        wrong = engines.has(SuspectKind.ACCESSORY) | engines.has(SuspectKind.OIL_LOW)
        for cam in book.cams:
            wrong = wrong | engines.has(SuspectKind.SENSOR, cam)
        for phaser in book.phasers:
            if phaser not in action.replaced:
                wrong = wrong | engines.has(SuspectKind.FEED, phaser)
        return wrong

    def _over(self, worn: _Worn, after_h: float) -> Bools:
        """Whether anything is over its limit after so many hours more."""
        if after_h not in worn.over:
            grown = self._grown(worn.wear, after_h)
            worn.over[after_h] = np.asarray((grown > self._limits).any(axis=1), dtype=bool)
        return worn.over[after_h]

    def _abrupt_fails(self, action: Action, abrupt: Bools) -> Floats:
        """How likely what is left besides wear fails within the hours answered for."""
        kept = np.array([FAILS_OF.get(f.key.kind, 0.0) for f in self.engines.faults])
        holds = np.exp(abrupt @ np.log1p(-kept))
        for tensioner in self._book.tensioners:
            if tensioner not in action.renewed:
                holds *= 1.0 - FAILS_LEAKING * self.engines.has(SuspectKind.LEAK, tensioner)
        return 1.0 - holds

    def _hooked(self, action: Action) -> Bools:
        """Whether a new chain runs on sprockets that the old one has worn."""
        found = np.zeros(len(self.engines), dtype=bool)
        if self.school.sprockets is Sprockets.KEEP:
            for i, item in enumerate(self.engines.items):
                if item.kind == "chain" and item.key in action.renewed:
                    found |= self.engines.wear[:, i] > HOOKED_SHARE * item.limit
        return found

    def _grown(self, wear: Floats, after_h: float) -> Floats:
        """Wear after so many hours more, by the book's law of growth."""
        now = max(self.hours if self.hours is not None else SERVICE_HOURS_UNKNOWN, YOUNGEST_H)
        shapes = np.array([_shape(self._book, item.key) for item in self.engines.items])
        return wear * ((now + after_h) / now) ** shapes

    def _fails(self, after: _After, hours: float) -> Floats:
        """How likely the engine fails within so many hours."""
        worn = after.worn
        if hours not in worn.holds:
            share = self._grown(worn.wear, hours) / self._limits
            each = [fails(item.kind, share[:, i]) for i, item in enumerate(self.engines.items)]
            worn.holds[hours] = np.prod([1.0 - chance for chance in each], axis=0)
        return 1.0 - worn.holds[hours] * (1.0 - after.abrupt_fails) ** (
            hours / self.rates.horizon_h
        )

    def _follows(
        self,
        action: Action,
        after: _After,
        outlay: float,
        mended: Floats,
        later: Floats,
        fails: Floats,
    ) -> Floats:
        """What follows an action, in each engine."""
        rates = self.rates
        again_if_left = NOTICED if self.is_noticed else UNNOTICED
        comes_back = np.where(after.restored, again_if_left * ~after.works, 1.0)
        again = comes_back * (rates.comeback + mended)
        if action.kind is ActionKind.REMEASURE:
            early = self._fails(after, action.after_h)
            is_due = self._over(after.worn, action.after_h) & (comes_back == 0)
            rest = np.where(is_due, later, (fails - early) * self._failure)
            return rates.remeasure + again + early * self._failure + rest
        total = again + fails * self._failure + self._over(after.worn, 0.0) * rates.over_limit
        if action.renewed:
            fail = (
                rates.aftermarket_fails
                if self.school.parts is Parts.AFTERMARKET
                else rates.maker_fails
            )
            total = total + fail * (rates.comeback + outlay)
        if action.opened:
            total = total + len(action.opened) * rates.slip * (rates.comeback + 0.5 * outlay)
        return total + HOOKED_COMEBACK * after.hooked * (rates.comeback + 0.5 * outlay)


def _is_mended(kind: SuspectKind, part: str, action: Action) -> bool:
    """Whether an action puts an abrupt fault right."""
    if kind is SuspectKind.JUMP:
        return Contact.of(part).chain in action.opened
    if kind is SuspectKind.TONE:
        return part in action.wheels
    return part in action.replaced


def _shape(book: EngineBook, key: str) -> float:
    part = book.chains.get(key) or book.guides.get(key) or book.arms[key]
    return part.wear.shape
