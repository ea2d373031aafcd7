"""What of a configuration and of its draws is silent or sounds: slack chains, stuck tensioners,
guides that are gone. With it come the hidden faults, summed over (``hidden``), for every term of
what was heard (``hearing``).
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.hearing import NOISE_OF, Atom, home_of_chain
from flaneur.core.diagnosis.hidden import Flags, Hidden
from flaneur.core.diagnosis.problem import Problem
from flaneur.core.diagnosis.wear import WearUnknown
from flaneur.core.gauss import cdf
from flaneur.core.keys import SuspectKey, SuspectKind

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]


@dataclass(frozen=True)
class Silences:
    """Silences of one question, for all its configurations (C) and every term heard (T)."""

    book: EngineBook
    problem: Problem
    hidden: Hidden

    @property
    def sign(self) -> Floats:
        """Signs of the terms, (T,)."""
        return np.array([t.sign for t in self.hidden.terms])

    @cached_property
    def kinds(self) -> tuple[list[Flags], Ints]:
        """All that configurations differ in for hidden faults, and which of it each has, (C,)."""
        known: list[Flags] = [Flags.of(f.phaser, f.stuck) for f in self.problem.faults]
        known.append(Flags.of("", ""))
        distinct = list(dict.fromkeys([known[-1], *known]))
        of: Ints = np.array([distinct.index(flags) for flags in known], dtype=np.int64)
        places: int = self.problem.members.shape[1]
        base: Ints = np.array([len(distinct) ** k for k in range(places)], dtype=np.int64)
        each: Ints = np.sort(of[self.problem.members], axis=1)
        code: Ints = each @ base
        _, first, which = np.unique(code, return_index=True, return_inverse=True)
        flags: list[Flags] = [Flags.joined(distinct[int(k)] for k in row) for row in each[first]]
        return flags, which.reshape(-1)

    def sums(self, which: Ints, keys: list[SuspectKey | None]) -> Floats:
        """Hidden faults summed over, all of them and with each there, (L, K, T), signed."""
        flags, kinds = self.kinds
        used, at = np.unique(kinds[which], return_inverse=True)
        each = [[self.hidden.sums(flags[k])[key] for key in keys] for k in map(int, used)]
        return (np.array(each) * self.sign)[at.reshape(-1)]

    def drawn(self, which: Ints, x: Floats) -> Floats:
        """Silence of all that a draw decides for every term, and of what nobody thought of: draws
        (L, N, u) to (L, N, T).
        """
        slack = slackness(self.problem.items, x)
        atoms = {
            atom: self._quiet(atom, slack)
            for atom in dict.fromkeys(a for t in self.hidden.terms for a in t.atoms)
        }
        found = np.ones((*x.shape[:2], len(self.hidden.terms)))
        found *= np.prod(self._of_faults[self.problem.members[which]], axis=1)[:, None, :]
        for t, term in enumerate(self.hidden.terms):
            for atom in term.atoms:
                found[..., t] *= atoms[atom]
        return found

    def _quiet(self, atom: Atom, slack: dict[str, Floats]) -> Floats:
        """Silence of slack chains, and of what nobody thought of."""
        ears, q = self.hidden.ears, NOISE_OF["slack"][atom.when] * atom.trust
        silence: Floats = np.full_like(next(iter(slack.values())), ears.background(atom))
        for chain, slaps in slack.items():
            share = ears.share(home_of_chain(self.book, chain), atom.places)
            silence *= 1.0 - q * share * slaps
        return silence

    @cached_property
    def _of_faults(self) -> Floats:
        """Silence of every abrupt fault for every term, (F + 1, T); the last is of no fault."""
        found = np.ones((len(self.problem.faults) + 1, len(self.hidden.terms)))
        for f, fault in enumerate(self.problem.faults):
            for t, term in enumerate(self.hidden.terms):
                for atom in term.atoms:
                    found[f, t] *= self._fault(fault.key, atom)
        return found

    def _fault(self, key: SuspectKey, atom: Atom) -> float:
        ears = self.hidden.ears
        if key.kind is SuspectKind.GONE:
            chain = self.book.guides[key.part].chain
            return ears.silence("gone", home_of_chain(self.book, chain), atom)
        if key.kind is SuspectKind.STUCK:
            arm = next(a for a in self.book.arms.values() if a.tensioner == key.part)
            return ears.silence("stuck", home_of_chain(self.book, arm.chain), atom)
        return 1.0


def slackness(items: list[WearUnknown], x: Floats) -> dict[str, Floats]:
    """How likely each chain slaps, (…, unknowns) to (…): by its elongation, or the wear of the arm
    that no longer holds it, against their limits.
    """
    found: dict[str, Floats] = {}
    for chain in (item.key for item in items if item.kind == "chain"):
        shares = [
            x[..., i] / item.limit
            for i, item in enumerate(items)
            if item.key == chain or (item.kind == "arm" and item.chain == chain)
        ]
        found[chain] = cdf((np.max(np.stack(shares), axis=0) - 1.1) / 0.25)
    return found
