"""Noises: which faults make them, when and where, and what hearing one says.

A noise is a noisy-or: every cause that is there sounds with its own chance, at one place. Whoever
listens names the first place, in a fixed order, at which anything sounds. The chance of what was
heard is then a sum of few products over the causes, one factor a cause, with signs: all sets of
causes are summed over exactly, without going through them (the quickscore rule, Heckerman 1989).
"""

from collections.abc import Collection
from dataclasses import dataclass
from itertools import product

from flaneur.core.book.schema import EngineBook
from flaneur.core.readings.tests import ELSEWHERE, FOOT, AnyTest, Complaint, Noise, bank_top

BACKGROUND = 0.03  # a noise of something nobody thought of
UNSAID = 0.85  # of what a technician hears, a customer tells
STOOD_H = 8.0  # hours of standing after which a cold start is as loud as it gets
NOISE_OF: dict[str, dict[str, float]] = {
    "slack": {"cold_start": 0.6, "hot_idle": 0.45, "under_load": 0.4},
    "leak": {"cold_start": 0.85, "hot_idle": 0.25, "under_load": 0.15},
    "stuck": {"cold_start": 0.6, "hot_idle": 0.6, "under_load": 0.5},
    "gone": {"cold_start": 0.8, "hot_idle": 0.7, "under_load": 0.6},
    "lock_pin": {"cold_start": 0.85, "hot_idle": 0.05, "under_load": 0.02},
    "oil_low": {"cold_start": 0.4, "hot_idle": 0.5, "under_load": 0.2},
    "accessory": {"cold_start": 0.3, "hot_idle": 0.6, "under_load": 0.4},
}
"""How often each fault sounds, when it is there."""
HERE, NEAR, AWAY = 0.7, 0.1, 0.2
"""Of a fault at one place: heard there, at another place of the front, elsewhere."""


@dataclass(frozen=True)
class Atom:
    """Silence at some places at one time: ``places`` where nothing is heard; ``accessories``
    whether they run; ``trust`` scales every cause's chance.
    """

    when: str
    places: frozenset[str]
    accessories: bool = True
    trust: float = 1.0


@dataclass(frozen=True)
class Term:
    """A product of silences with its sign."""

    sign: float
    atoms: tuple[Atom, ...]


@dataclass(frozen=True)
class Ears:
    """Places of an engine in the order in which they are named, and where each fault sounds."""

    places: tuple[str, ...]

    @property
    def all(self) -> frozenset[str]:
        """Every place."""
        return frozenset(self.places)

    def share(self, at: str, places: frozenset[str]) -> float:
        """Of a fault whose home is ``at``: how much of its noise is heard in ``places``."""
        front = [p for p in self.places if p != ELSEWHERE]
        if at not in front:
            shares = {p: (1.0 if p == ELSEWHERE else 0.0) for p in self.places}
        else:
            near = NEAR / max(1, len(front) - 1)
            shares = {p: HERE if p == at else near for p in front} | {ELSEWHERE: AWAY}
        return sum(shares[p] for p in places)

    def silence(self, cause: str, at: str, atom: Atom) -> float:
        """Chance that a fault that is there is not heard so."""
        if cause == "accessory" and not atom.accessories:
            return 1.0
        return 1.0 - NOISE_OF[cause][atom.when] * self.share(at, atom.places) * atom.trust

    def background(self, atom: Atom) -> float:
        """Chance that nothing else is heard so."""
        return 1.0 - BACKGROUND * len(atom.places) / len(self.places) * atom.trust


def ears_of(book: EngineBook) -> Ears:
    """Places of an engine: the top of each bank, the front's foot, elsewhere."""
    return Ears((*(bank_top(b) for b in book.banks), FOOT, ELSEWHERE))


def home_of(book: EngineBook, shafts: Collection[str]) -> str:
    """Where what is on these shafts is loudest: at the top of their one bank, or at the front's
    foot.
    """
    banks = {bank for s in shafts if (bank := book.shafts[s].bank) is not None}
    return bank_top(banks.pop()) if len(banks) == 1 else FOOT


def home_of_chain(book: EngineBook, chain: str) -> str:
    """Where a chain is loudest: at the bank of the cams it turns itself."""
    return home_of(book, book.shafts_on(chain) & set(book.cams))


def heard(ears: Ears, tests: list[AnyTest]) -> list[Term]:
    """All that was heard, as a sum of terms; one term without silences when nobody listened."""
    sums: list[list[Term]] = []
    for test in tests:
        if isinstance(test, Noise):
            sums.append(_noise(ears, test))
        elif isinstance(test, Complaint) and test.rattle != "unknown":
            sums.append(_told(ears, test))
    terms: list[Term] = []
    for chosen in product(*sums):
        sign = 1.0
        atoms: tuple[Atom, ...] = ()
        for term in chosen:
            sign, atoms = sign * term.sign, atoms + term.atoms
        terms.append(Term(sign, atoms))
    return terms


def _noise(ears: Ears, test: Noise) -> list[Term]:
    if test.seconds == 0:
        return [Term(1.0, (Atom(test.when, ears.all),))]
    place = test.where if test.where in ears.places else ELSEWHERE
    first = ears.places.index(place)
    before, with_it = frozenset(ears.places[:first]), frozenset(ears.places[: first + 1])
    if test.belt_off == "stays":
        return [
            Term(1.0, (Atom(test.when, before, False),)),
            Term(-1.0, (Atom(test.when, with_it, False),)),
        ]
    if test.belt_off == "goes":  # nothing sounds without the accessories, something with them
        return [
            Term(1.0, (Atom(test.when, ears.all, False),)),
            Term(-1.0, (Atom(test.when, ears.all),)),
        ]
    return [Term(1.0, (Atom(test.when, before),)), Term(-1.0, (Atom(test.when, with_it),))]


def _told(ears: Ears, test: Complaint) -> list[Term]:
    """What the customer tells: that it rattles, not where."""
    stood = 1.0 if test.stood_h is None else min(1.0, test.stood_h / STOOD_H)
    if test.rattle == "none":
        quiet = (
            Atom("cold_start", ears.all, trust=UNSAID * stood),
            Atom("hot_idle", ears.all, trust=UNSAID),
        )
        return [Term(1.0, quiet)]
    trust = UNSAID * (stood if test.rattle == "cold_start" else 1.0)
    return [Term(1.0, ()), Term(-1.0, (Atom(test.rattle, ears.all, trust=trust),))]
