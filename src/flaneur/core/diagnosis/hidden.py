"""Faults that no figure shows: a tensioner that leaks, a phaser that is slow or whose lock pin is
worn, oil that is low, an accessory. Each is there or not, by itself; tests tell of them.

All of them together are summed over exactly: what each test says of one of them is put into its own
two (or, for a phaser, thirty-two) weights, and noises, which tie them together, are sums of
products (``hearing``).
"""

from collections.abc import Iterable
from dataclasses import dataclass, field
from functools import cached_property
from itertools import product
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.codes import phaser_codes_of
from flaneur.core.diagnosis.hearing import Ears, Term, home_of, home_of_chain
from flaneur.core.diagnosis.odds import Odds
from flaneur.core.keys import SuspectKey, SuspectKind
from flaneur.core.measuring.told import AccessoryNoise, OilState
from flaneur.core.readings.tests import (
    ELSEWHERE,
    FOOT,
    AnyTest,
    Codes,
    Compress,
    Oil,
    Sweep,
    Test,
)

Floats = NDArray[np.float64]
T = TypeVar("T", bound=Test)
PHASER_FAULTS = (
    SuspectKind.SLOW,
    SuspectKind.DRIFTS,
    SuspectKind.HUNTS,
    SuspectKind.LOCK_PIN,
    SuspectKind.FEED,
)
STATES = np.array(list(product((0, 1), repeat=len(PHASER_FAULTS))), dtype=bool)  # (32, 5)
EITHER = np.array([[False], [True]])
SEEN, FALSE = 0.92, 0.03  # a sweep shows what is there; shows what is not
FEELS = {  # sound, leaking, stuck
    "firm": (0.80, 0.10, 0.10),
    "springy": (0.15, 0.30, 0.05),
    "sinks": (0.04, 0.58, 0.05),
    "seized": (0.01, 0.02, 0.80),
}
SINKS = ((2.0, 0.4), (0.3, 0.6))  # sound and leaking: times the book's least, and log spread
EXCLUDED = 0.1  # of its odds, once accessories are said to be excluded
OIL_SHARE, OIL_SD = (1.5, 0.6), 0.25  # of the book's least: as it should be, low; spread
POOR_OIL = 1.5  # times likelier that a tensioner leaks or a lock pin is worn


@dataclass(frozen=True)
class Flags:
    """What of a configuration bears on hidden faults: phasers off park, chains whose tensioner is
    stuck.
    """

    off_park: frozenset[str]
    stuck: frozenset[str]

    @classmethod
    def of(cls, phaser: str, stuck: str) -> "Flags":
        """Those of one fault; an empty name says nothing."""
        return cls(frozenset({phaser} - {""}), frozenset({stuck} - {""}))

    @classmethod
    def joined(cls, each: Iterable["Flags"]) -> "Flags":
        """Those of several faults together."""
        several = tuple(each)
        off_park = frozenset[str]().union(*(f.off_park for f in several))
        return cls(off_park, frozenset[str]().union(*(f.stuck for f in several)))


@dataclass(frozen=True)
class Together:
    """Faults that are there or not together: ``keys`` (K,), every state of them (S, K), its weight
    (S,) by its prior and by what was found of it, and its silence for every term of what was heard
    (S, T).
    """

    keys: tuple[SuspectKey, ...]
    states: NDArray[np.bool_]
    weights: Floats
    silences: Floats

    @cached_property
    def by_state(self) -> Floats:
        """Weight and silence of every state, (S, T)."""
        return np.asarray(self.weights[:, None] * self.silences)

    @cached_property
    def whole(self) -> Floats:
        """Their sum over all states, (T,)."""
        return np.asarray(self.by_state.sum(axis=0))

    @cached_property
    def there(self) -> Floats:
        """Their share in which each fault is there, (K, T)."""
        return np.asarray(self.states.T.astype(float) @ self.by_state / self.whole)


_Asked = tuple[str, bool, bool]  # part, whether its own flag is up, whether the oil is low


@dataclass(frozen=True)
class Hidden:
    """The hidden faults of an engine, and all that was found of them."""

    book: EngineBook
    odds: Odds
    oil: OilState
    accessories: AccessoryNoise
    ears: Ears
    tests: tuple[AnyTest, ...]
    terms: tuple[Term, ...]
    chains: tuple[str, ...]
    _kept: dict[Flags, dict[SuspectKey | None, Floats]] = field(
        default_factory=dict[Flags, dict[SuspectKey | None, Floats]], compare=False, repr=False
    )
    _groups: dict[_Asked, Together] = field(
        default_factory=dict[_Asked, Together], compare=False, repr=False
    )

    def group(self, asked: _Asked) -> Together:
        """One group of faults, worked out once."""
        if asked not in self._groups:
            self._groups[asked] = _group(self, *asked)
        return self._groups[asked]

    @property
    def keys(self) -> list[SuspectKey]:
        """Every hidden fault."""
        leaks = [self.book.arms[a].tensioner for c in self.chains if (a := self.book.arm_of(c))]
        return [
            *(SuspectKey(SuspectKind.LEAK, t) for t in leaks),
            *(SuspectKey(kind, p) for p in self.book.phasers for kind in PHASER_FAULTS),
            SuspectKey(SuspectKind.OIL_LOW),
            SuspectKey(SuspectKind.ACCESSORY),
        ]

    def oil_silence(self) -> Floats:
        """Silence of low oil pressure, for every term of what was heard, (T,)."""
        return np.array([_silence(self, "oil_low", FOOT, t) for t in self.terms])

    def sums(self, flags: Flags) -> dict[SuspectKey | None, Floats]:
        """For every term of what was heard (T,): the sum over all hidden faults of their weight and
        silence; and the same with each fault there.
        """
        if flags not in self._kept:
            self._kept[flags] = _sums(self, flags)
        return self._kept[flags]


def _sums(hidden: Hidden, flags: Flags) -> dict[SuspectKey | None, Floats]:
    total = np.zeros(len(hidden.terms))
    parts: dict[SuspectKey | None, Floats] = {}
    for oil_low in (False, True):
        silence = hidden.oil_silence() if oil_low else 1.0
        whole = np.ones(len(hidden.terms)) * oil_weight(hidden, oil_low) * silence
        groups = together(hidden, flags, oil_low)
        for group in groups:
            whole = whole * group.whole
        total = total + whole
        for group in groups:
            for key, there in zip(group.keys, group.there, strict=True):
                parts[key] = parts.get(key, 0.0) + whole * there
        if oil_low:
            parts[SuspectKey(SuspectKind.OIL_LOW)] = whole
    parts[None] = total
    return parts


def together(hidden: Hidden, flags: Flags, oil_low: bool) -> list[Together]:
    """The groups of hidden faults, each independent of the others once it is known whether the
    oil's pressure is low.
    """
    book = hidden.book
    asked = [(chain, chain in flags.stuck, False) for chain in hidden.chains if book.arm_of(chain)]
    asked += [(p, p in flags.off_park, oil_low) for p in book.phasers]
    return [hidden.group(one) for one in [*asked, ("", False, False)]]


def _group(hidden: Hidden, part: str, is_flagged: bool, oil_low: bool) -> Together:
    """A chain's tensioner, a phaser, or (no part) an accessory."""
    book, odds = hidden.book, hidden.odds
    worse = POOR_OIL if hidden.oil is OilState.POOR else 1.0
    if part in book.phasers:
        weights = _phaser(hidden, part, is_flagged, oil_low, worse)
        keys = tuple(SuspectKey(kind, part) for kind in PHASER_FAULTS)
        pin = STATES[:, PHASER_FAULTS.index(SuspectKind.LOCK_PIN)]
        home = home_of(book, [book.phasers[part].shaft])
        return Together(keys, STATES, weights, _silences(hidden, pin, "lock_pin", home))
    if arm := part and book.arm_of(part):
        prior = min(0.4, odds.leak * worse)
        sound, leaks = _tensioner(hidden, part, is_flagged)
        key = SuspectKey(SuspectKind.LEAK, book.arms[arm].tensioner)
        weights = np.array([(1 - prior) * sound, prior * leaks])
        silences = _silences(hidden, EITHER[:, 0], "leak", home_of_chain(book, part))
        return Together((key,), EITHER, weights, silences)
    prior = odds.accessory * (EXCLUDED if hidden.accessories is AccessoryNoise.EXCLUDED else 1.0)
    silences = _silences(hidden, EITHER[:, 0], "accessory", ELSEWHERE)
    weights = np.array([1 - prior, prior])
    return Together((SuspectKey(SuspectKind.ACCESSORY),), EITHER, weights, silences)


def _silences(hidden: Hidden, sounds: NDArray[np.bool_], cause: str, at: str) -> Floats:
    """Silence of every state, for every term of what was heard, (S, T)."""
    silence = np.array([_silence(hidden, cause, at, t) for t in hidden.terms])
    return np.where(sounds[:, None], silence, 1.0)


def _silence(hidden: Hidden, cause: str, at: str, term: Term) -> float:
    silence = 1.0
    for atom in term.atoms:
        silence *= hidden.ears.silence(cause, at, atom)
    return silence


def _of(hidden: Hidden, kind: type[T], part: str | None = None) -> list[T]:
    """The tests of one kind, of one part where it is said."""
    found = [t for t in hidden.tests if isinstance(t, kind)]
    return [t for t in found if part is None or getattr(t, "part", None) == part]


def oil_weight(hidden: Hidden, oil_low: bool) -> float:
    """Weight of the oil's pressure being low, or not: its prior, and what was found of it."""
    poor = {OilState.GOOD: 0.0, OilState.POOR: 1.0, OilState.UNKNOWN: 0.5}[hidden.oil]
    prior = hidden.odds.oil_low + poor * (hidden.odds.oil_low_poor - hidden.odds.oil_low)
    weight = prior if oil_low else 1 - prior
    for test in _of(hidden, Oil):
        if test.level != "unknown":
            is_low = 0.4 if oil_low else 0.08
            weight *= is_low if test.level == "low" else 1 - is_low
        weight *= _pressure(hidden.book, test, oil_low)
    return weight


def _pressure(book: EngineBook, test: Oil, oil_low: bool) -> float:
    """Density of a hot idle pressure, as a share of the book's least. Read cold or fast it says
    little, and nothing is made of it.
    """
    least = book.limits.oil_kpa_hot_idle
    is_hot = test.oil_c is not None and test.oil_c >= 80
    is_idle = test.rpm is None or test.rpm <= 1.25 * book.signals.idle_rpm
    if test.pressure_kpa is None or least is None or not (is_hot and is_idle):
        return 1.0
    share = test.pressure_kpa / least
    return float(np.exp(-0.5 * ((share - OIL_SHARE[oil_low]) / OIL_SD) ** 2))


def _tensioner(hidden: Hidden, chain: str, is_stuck: bool) -> tuple[float, float]:
    """What the hand found, were the tensioner sound and were it leaking; a stuck one gives the same
    either way.
    """
    tensioner = hidden.book.tensioner_of(chain)
    weights = [1.0, 1.0]
    for test in _of(hidden, Compress, chain):
        if test.feel is not None:
            row = FEELS[test.feel]
            each = [row[2], row[2]] if is_stuck else [row[0], row[1]]
        elif (
            tensioner is not None and tensioner.leak_down_s is not None and test.seconds is not None
        ):
            times = max(test.seconds, 0.05) / tensioner.leak_down_s
            each = [
                float(np.exp(-0.5 * (np.log(times / middle) / spread) ** 2) / spread)
                for middle, spread in SINKS
            ]
            each = [0.3, 0.3] if is_stuck else each
        else:
            continue
        weights = [w * e for w, e in zip(weights, each, strict=True)]
    return weights[0], weights[1]


def _phaser(hidden: Hidden, phaser: str, is_off_park: bool, oil_low: bool, worse: float) -> Floats:
    """Weights (32,) of the states of a phaser, by its prior, its sweeps and its codes."""
    odds = hidden.odds
    priors = np.array(
        [odds.slow, odds.drifts, odds.hunts, min(0.4, odds.lock_pin * worse), odds.feed]
    )
    weights = np.prod(np.where(STATES, priors, 1 - priors), axis=1)
    slow, drifts, hunts, _, feed = STATES.T
    silence = {  # chance that a sweep does not show it
        "slow": _or(slow * SEEN, feed * 0.9, oil_low * 0.5),
        "drifts": _or(drifts * SEEN, feed * 0.2, oil_low * 0.3),
        "hunts": _or(hunts * SEEN, oil_low * 0.2),
        "stuck": _or(np.full(32, is_off_park * 0.6), feed * 0.15),
        "not_parking": _or(np.full(32, is_off_park * 0.8), hunts * 0.05),
    }
    for test in _of(hidden, Sweep, phaser):
        for what, quiet in silence.items():
            weights = weights * ((1 - quiet) if what in test.found else quiet)
    for test in _of(hidden, Codes):
        for code, kind in phaser_codes_of(hidden.book, phaser).items():
            causes = (
                (slow * 0.4, feed * 0.4, oil_low * 0.15)
                if kind == "slow"
                else (
                    slow * 0.3,
                    drifts * 0.3,
                    feed * 0.4,
                    oil_low * 0.2,
                    np.full(32, is_off_park * 0.7),
                )
            )
            quiet = _or(*causes, false=0.005)
            weights = weights * ((1 - quiet) if code in test.codes else quiet)
    return weights


def _or(*causes: "Floats | float", false: float = FALSE) -> Floats:
    """Chance that none of the causes shows, nor anything by mistake, (32,)."""
    quiet = np.full(32, 1 - false)
    for cause in causes:
        quiet = quiet * (1 - cause)
    return quiet
