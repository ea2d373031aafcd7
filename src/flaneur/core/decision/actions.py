"""What can be done about an engine: what each action renews, opens and sets right, and what it
takes.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from flaneur.core.book.schema import EngineBook
from flaneur.core.choices import Worded
from flaneur.core.decision.rates import Extent, Phasers, Rates, School, Sprockets
from flaneur.core.engine.compiled import compiled
from flaneur.core.plan.access import renewed_set
from flaneur.core.plan.outlay import outlay

REMEASURE_AFTER_H = (250.0, 500.0, 1000.0)
WHEEL_MIN, OUTSIDE_MIN, OUTSIDE_PRICE = 60.0, 90.0, 90.0


class ActionKind(Worded):
    """What is done. ``ELSEWHERE``: pump, belt, oil, sensor or screen, with the drive left shut."""

    LEAVE = "leave", "leave it as it is"
    REMEASURE = "remeasure", "leave it and measure again"
    ELSEWHERE = "elsewhere", "put right what is not in the drive"
    WHEEL = "wheel", "set the tone wheel right"
    SET_RIGHT = "set_right", "set the chain right, renew nothing"
    TENSIONER = "tensioner", "renew the tensioner alone"
    PHASER = "phaser", "renew the phaser"
    LOCKOUT = "lockout", "lock the phaser out"
    PARTS = "parts", "renew parts"
    CHAIN_SET = "chain_set", "renew chain and guides"
    CHAIN_SET_PHASERS = "chain_set_phasers", "renew chain, guides and phasers"
    WHOLE_SET = "whole_set", "renew the whole set"
    RETIRE = "retire", "retire the engine"


@dataclass(frozen=True)
class Action:
    """One action. ``scope``: components chosen, ``kept`` of them set right and not renewed;
    ``renewed``: parts of the drive that are new after it; ``opened``: chains that come off and are
    set right; ``locked``: phasers locked out; ``wheels``: tone wheels set right; ``outside``: what
    is not in the drive is put right; ``after_h``: measured again after so many hours; minutes, and
    ``price`` of parts.
    """

    kind: ActionKind
    scope: tuple[str, ...] = ()
    kept: tuple[str, ...] = ()
    renewed: frozenset[str] = frozenset()
    opened: frozenset[str] = frozenset()
    locked: frozenset[str] = frozenset()
    wheels: frozenset[str] = frozenset()
    outside: bool = False
    after_h: float = 0.0
    minutes: float = 0.0
    waiting_minutes: float = 0.0
    price: float = 0.0

    @property
    def replaced(self) -> frozenset[str]:
        """Parts that are not what they were: renewed, or locked out."""
        return self.renewed | self.locked


@dataclass(frozen=True)
class Workshop:
    """A book, the shop's rates and its school: makes actions."""

    book: EngineBook
    rates: Rates
    school: School

    def renewing(
        self,
        kind: ActionKind,
        parts: Iterable[str],
        locked: Iterable[str] = (),
        right: Iterable[str] = (),
    ) -> Action:
        """An action by what the plan makes of it: renews parts of the drive, locks phasers out (a
        lockout goes in where its phaser comes out), and sets chains right that are not renewed.
        """
        book, locks = self.book, frozenset(locked)
        wanted, chains = {*parts, *locks}, set(right)
        if self.school.sprockets is Sprockets.RENEW:
            loops = {s for c in wanted & set(book.chains) for s in book.chains[c].loop}
            wanted |= loops & set(book.sprockets)
        part_of = {k: c.part for k, c in book.components.items() if c.part}
        is_chosen = wanted | chains
        scope = tuple(
            k for k, part in part_of.items() if part in is_chosen and book.components[k].renewable
        )
        kept = tuple(k for k in scope if part_of[k] not in wanted)
        taken = outlay(book, scope, kept)
        spared = sum(c.price for c in book.components.values() if c.part in locks)
        new = {part_of[c] for c in renewed_set(book, scope, kept) if c in part_of}
        return Action(
            kind,
            scope,
            kept=kept,
            renewed=frozenset(new - locks),
            opened=frozenset(part_of[c] for c in taken.off if c in part_of) & set(book.chains),
            locked=locks,
            minutes=taken.minutes,
            waiting_minutes=taken.waiting_minutes,
            price=taken.price - spared + len(locks) * self.rates.lockout_price,
        )

    def setting_right(self, chains: Iterable[str]) -> Action:
        """Chains off and on again at their marks; nothing but one-use parts renewed."""
        return self.renewing(ActionKind.SET_RIGHT, [], right=chains)

    def set_of(self, chain: str) -> list[str]:
        """A chain with its guides, arm and tensioner."""
        book, arm = self.book, self.book.arm_of(chain)
        guides = [k for k, g in book.guides.items() if g.chain == chain]
        return [chain, *guides, *([arm, book.arms[arm].tensioner] if arm else [])]

    @property
    def timing_chains(self) -> list[str]:
        """Chains that time cams and that a component of the book is."""
        parts, train = {c.part for c in self.book.components.values()}, compiled(self.book).train
        return [c for c in self.book.chains if c in parts and train.times_cams(c)]

    def shut(self) -> list[Action]:
        """Actions that leave the drive shut."""
        wheels = [
            Action(ActionKind.WHEEL, wheels=frozenset((key,)), minutes=WHEEL_MIN)
            for key in self.book.tone_wheels
        ]
        return [
            Action(ActionKind.LEAVE),
            *(Action(ActionKind.REMEASURE, after_h=h) for h in REMEASURE_AFTER_H),
            Action(ActionKind.ELSEWHERE, outside=True, minutes=OUTSIDE_MIN, price=OUTSIDE_PRICE),
            *wheels,
        ]

    def units(self) -> list[Action]:
        """Smallest actions that open the drive; a phaser renewed and locked out, by any school."""
        book, found = self.book, list[Action]()
        for chain in self.timing_chains:
            found.append(self.setting_right([chain]))
            arm = book.arm_of(chain)
            if arm is not None:
                tensioner = book.arms[arm].tensioner
                found.append(self.renewing(ActionKind.TENSIONER, [tensioner]))
            if self.school.extent is Extent.MEASURED:
                single = [p for p in self.set_of(chain) if p not in book.tensioners]
                found += [self.renewing(ActionKind.PARTS, [p]) for p in single]
            found.append(self.renewing(ActionKind.CHAIN_SET, self.set_of(chain)))
        for phaser in book.phasers:
            found.append(self.renewing(ActionKind.PHASER, [phaser]))
            found.append(self.renewing(ActionKind.LOCKOUT, [], [phaser]))
        return list({(a.kind, a.scope, a.locked): a for a in found if a.scope}.values())

    def together(self, kind: ActionKind, actions: Sequence[Action]) -> Action:
        """Several actions in one go: the engine is opened once."""
        parts = {p for a in actions for p in a.renewed}
        locked = {p for a in actions for p in a.locked}
        right = {self.book.components[c].part or "" for a in actions for c in a.kept}
        made = self.renewing(kind, parts, locked, right - parts)
        shut = [a for a in actions if not a.scope]
        return replace(
            made,
            wheels=frozenset(w for a in actions for w in a.wheels),
            outside=any(a.outside for a in actions),
            minutes=made.minutes + sum(a.minutes for a in shut),
            price=made.price + sum(a.price for a in shut),
        )

    def groups(self, action: Action) -> list[list[str]]:
        """Parts of an action that are renewed or left in together, by the school."""
        if self.school.extent is Extent.WHOLE_SET:
            sets = [self.set_of(c) for c in self.timing_chains if c in action.renewed]
            return [*sets, *([p] for p in self.book.phasers if p in action.replaced)]
        return [[part] for part in sorted(action.replaced)]

    def joins(self, action: Action) -> bool:
        """Whether a small action is put together with others: of a phaser only what the school
        does.
        """
        is_locking = self.school.phasers is Phasers.LOCK_OUT
        return action.kind is not (ActionKind.PHASER if is_locking else ActionKind.LOCKOUT)

    def with_phasers(self, kind: ActionKind, parts: Iterable[str]) -> Action:
        """An action that renews parts; phasers among them are renewed or locked out by the
        school.
        """
        every = set(parts)
        if self.school.phasers is Phasers.RENEW:
            return self.renewing(kind, every)
        return self.renewing(kind, every - set(self.book.phasers), every & set(self.book.phasers))

    def large(self) -> list[Action]:
        """Every chain's set; the same with every phaser; another engine."""
        parts = [p for c in self.timing_chains for p in self.set_of(c)]
        found = [self.renewing(ActionKind.WHOLE_SET, parts)]
        if self.book.phasers:
            every = [*parts, *self.book.phasers]
            found.append(self.with_phasers(ActionKind.CHAIN_SET_PHASERS, every))
        return [*found, Action(ActionKind.RETIRE, price=self.rates.another_engine)]
