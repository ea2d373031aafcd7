"""What the tests that give no figure say of each draw: tools that fit or not, counts of links,
debris, looks inside, noises, codes, an engine that does not start.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.codes import correlation_code, sensor_codes
from flaneur.core.diagnosis.fitting import play_deg
from flaneur.core.diagnosis.hidden import Hidden
from flaneur.core.diagnosis.odds import Odds
from flaneur.core.diagnosis.problem import Problem
from flaneur.core.diagnosis.silences import Silences
from flaneur.core.drive.counts import links_added
from flaneur.core.gauss import cdf
from flaneur.core.keys import Contact, SuspectKey, SuspectKind
from flaneur.core.readings.tests import (
    AnyTest,
    Codes,
    Complaint,
    Debris,
    Endoscope,
    Links,
    ToolFit,
)

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
TOOL_STARTS_DEG, TOOL_SD_DEG = 4.0, 1.0  # crank degrees
TOOL_SLACK_DEG = {"taken_up": 0.0, "unknown": 3.0, "not_taken_up": 5.0}
CORRELATION_DEG, CORRELATION_SD_DEG = 8.0, 2.5
NO_START_DEG, NO_START_SD_DEG = 35.0, 8.0
MISCOUNT = {"taken_up": 0.03, "unknown": 0.08, "not_taken_up": 0.15}
GONE_SHARE = 2.5  # of the limit: what a guide that is gone leaves in the pan
FAR_SETS, SENSOR_SETS = 0.9, 0.8  # how often a code is set where there is reason to
LEAST = 1e-12


@dataclass(frozen=True)
class Likelihood:
    """The tests of one question, for all its draws."""

    book: EngineBook
    problem: Problem
    hidden: Hidden
    odds: Odds
    tests: tuple[AnyTest, ...]

    @property
    def unasked(self) -> dict[SuspectKey, float]:
        """Hidden faults that only some tests speak of, with their odds before any."""
        sensors = {SuspectKey(SuspectKind.SENSOR, cam): self.odds.sensor for cam in self.book.cams}
        return sensors | {SuspectKey(SuspectKind.SEIZED): self.odds.seized}

    def of_configuration(self) -> Floats:
        """Log likelihood of what depends on the set of faults alone, (C,)."""
        total = np.zeros(len(self.problem.members))
        for test in self.tests:
            if isinstance(test, Links):
                total += np.log(self._links(test))
        return total

    def of_draws(self, which: Ints, x: Floats, response: Floats) -> Floats:
        """Log likelihood of the rest, (L, N)."""
        total = np.zeros(x.shape[:2])
        late = self.cams_late(x, response)
        for test in self.tests:
            if isinstance(test, ToolFit):
                play = play_deg(self.book, test)
                if play is not None:
                    cam = late[..., self.book.cams.index(test.part)]
                    total += np.log(tool_odds(test, cam, play))
            elif isinstance(test, Debris):
                total += np.log(self._debris(test, which, x))
            elif isinstance(test, Endoscope):
                total += np.log(self._look(test, which, x))
            elif isinstance(test, Codes):
                total += np.log(self._codes(test, late)[0])
            elif isinstance(test, Complaint):
                total += np.log(self._start(test, late)[0])
        return total + np.log(np.maximum(self.heard(which, x), LEAST))

    def cams_late(self, x: Floats, response: Floats) -> Floats:
        """How late each cam itself stands, its phaser's offset in it, (L, N, cams)."""
        late = response[..., : len(self.book.cams)].copy()
        for p, key in enumerate(self.problem.phasers):
            phaser = self.book.phasers[key]
            offset = phaser.late_sign * x[..., len(self.problem.items) + p]
            late[..., self.book.cams.index(phaser.shaft)] += offset
        return late

    def hidden_odds(self, which: Ints, x: Floats, response: Floats) -> dict[SuspectKey, Floats]:
        """Chance of each hidden fault in each draw, (L, N)."""
        late = self.cams_late(x, response)
        whole, each = self.hearing(which, x)
        found = {key: there / np.maximum(whole, LEAST) for key, there in each.items()}
        for test in self.tests:
            if isinstance(test, Codes):
                found |= self._codes(test, late)[1]
            elif isinstance(test, Complaint) and test.no_start:
                total, seized = self._start(test, late)
                found[SuspectKey(SuspectKind.SEIZED)] = seized / total
        return found

    @cached_property
    def silences(self) -> Silences:
        """What of configurations and draws is silent or sounds."""
        return Silences(self.book, self.problem, self.hidden)

    def hearing(self, which: Ints, x: Floats) -> tuple[Floats, dict[SuspectKey, Floats]]:
        """Likelihood of all that bears on hidden faults, (L, N), and the part of it in which each
        is there.
        """
        keys = self.hidden.keys
        each = self.silences.sums(which, [None, *keys])
        found = self.silences.drawn(which, x) @ each.transpose(0, 2, 1)  # (L, N, K)
        return found[..., 0], {key: found[..., i] for i, key in enumerate(keys, start=1)}

    def heard(self, which: Ints, x: Floats) -> Floats:
        """Likelihood of all that bears on hidden faults alone, (L, N)."""
        whole = self.silences.sums(which, [None])[:, 0, :, None]  # (L, T, 1)
        return np.asarray((self.silences.drawn(which, x) @ whole)[..., 0])

    @cached_property
    def _gone(self) -> Ints:
        """Which part is gone with every fault, (F + 1,); −1 for none."""
        each = (f.gone_index for f in self.problem.faults)
        return np.array([*(-1 if part is None else part for part in each), -1])

    def _links(self, test: Links) -> Floats:
        """A count: the book's, and what jumped teeth at its two ends add; a miscount by one now and
        then.
        """
        chain, _, number = test.part.rpartition(".")
        count = self.book.chains[chain].counts[int(number)]
        wrong = MISCOUNT[test.slack]
        likelihood = np.empty(len(self.problem.members))
        for c in range(len(likelihood)):
            more = 0
            for fault in self.problem.chosen(c):
                if fault.teeth:
                    contact = Contact.of(fault.key.part)
                    if contact.chain == chain:
                        added = links_added(
                            self.book.chains[chain], contact, count.start, count.end
                        )
                        more += fault.teeth * added
            off = abs(test.counted - count.links - more)
            likelihood[c] = 1 - wrong if off == 0 else wrong * 0.45 if off == 1 else wrong * 0.02
        likelihood[self.problem.none] = 0.2  # whatever is wrong, any count may be found
        return likelihood

    def _debris(self, test: Debris, which: Ints, x: Floats) -> Floats:
        """Plastic by the most worn liner, metal by the most stretched chain."""
        items = self.problem.items
        gone = np.max(self._gone[self.problem.members[which]], axis=1) >= 0
        liners = [x[..., i] / it.limit for i, it in enumerate(items) if it.kind != "chain"]
        chains = [x[..., i] / it.limit for i, it in enumerate(items) if it.kind == "chain"]
        likelihood = np.ones(x.shape[:2])
        if test.plastic != "not_looked" and liners:
            most: Floats = np.asarray(np.max(np.stack(liners), axis=0))
            most = np.where(gone[:, None], np.maximum(most, GONE_SHARE), most)
            likelihood *= debris_level("plastic", test.plastic, most)
        if test.metal != "not_looked" and chains:
            longest: Floats = np.asarray(np.max(np.stack(chains), axis=0))
            likelihood *= debris_level("metal", test.metal, longest)
        return likelihood

    def _look(self, test: Endoscope, which: Ints, x: Floats) -> Floats:
        """A look at one part; what could not be seen says nothing."""
        likelihood = np.ones(x.shape[:2])
        items = {item.key: i for i, item in enumerate(self.problem.items)}
        if test.finding == "not_seen" or test.part not in items:
            return likelihood
        share = x[..., items[test.part]] / self.problem.items[items[test.part]].limit
        gone = (self._gone[self.problem.members[which]] == items[test.part]).any(axis=1)[:, None]
        return look_odds(test.finding, share, gone)

    def _codes(self, test: Codes, late: Floats) -> tuple[Floats, dict[SuspectKey, Floats]]:
        """Correlation and sensor codes of every cam: likelihood and each sensor's odds."""
        likelihood = np.ones(late.shape[:2])
        found: dict[SuspectKey, Floats] = {}
        for i, cam in enumerate(self.book.cams):
            far = cdf((np.abs(late[..., i]) - CORRELATION_DEG) / CORRELATION_SD_DEG)
            is_set = correlation_code(self.book, cam) in test.codes
            is_sensor = any(code in test.codes for code in sensor_codes(self.book, cam))
            each: list[Floats] = []
            for faulty, prior in ((0.0, 1 - self.odds.sensor), (1.0, self.odds.sensor)):
                quiet = (1 - 0.01) * (1 - FAR_SETS * far) * (1 - 0.3 * faulty)
                silent = (1 - 0.005) * (1 - SENSOR_SETS * faulty)
                each.append(
                    prior * (1 - quiet if is_set else quiet) * (1 - silent if is_sensor else silent)
                )
            likelihood = likelihood * (each[0] + each[1])
            found[SuspectKey(SuspectKind.SENSOR, cam)] = each[1] / (each[0] + each[1])
        return likelihood, found

    def _start(self, test: Complaint, late: Floats) -> tuple[Floats, Floats]:
        """Whether it starts: likelihood, and the part of it in which a cam has seized."""
        far = 0.02 + 0.9 * cdf((np.max(np.abs(late), axis=-1) - NO_START_DEG) / NO_START_SD_DEG)
        if not test.no_start:
            return 1 - 0.5 * far * (1 - self.odds.seized), np.zeros_like(far)
        seized = np.full_like(far, 0.9 * self.odds.seized)
        return (1 - self.odds.seized) * far + seized, seized


def tool_odds(test: ToolFit, late: Floats, play: float) -> Floats:
    """Chance that a tool goes on as it did, by how far the cam stands from where it should."""
    sd = float(np.hypot(TOOL_SD_DEG, TOOL_SLACK_DEG[test.slack]))
    off = np.abs(late)
    slides = cdf((play - off) / sd)
    starts = cdf((play + TOOL_STARTS_DEG - off) / sd)
    fit = {
        "slides_on": slides,
        "starts": starts - slides,
        "does_not_start": 1 - starts,
    }[test.fit]
    return 0.01 + 0.97 * fit


def look_odds(finding: str, share: Floats, gone: NDArray[np.bool_]) -> Floats:
    """Chance of what an endoscope shows, by wear as a share of its limit and whether it is gone."""
    worn = 0.02 + 0.9 * cdf((share - 0.9) / 0.25)
    is_gone = finding in ("cracked", "broken", "missing", "chain_off")
    whole = {"sound": 1 - worn, "worn": worn}.get(finding, np.full_like(worn, 0.01))
    return np.where(gone, 0.9 if is_gone else 0.05, np.maximum(whole * 0.98, 0.005))


DEBRIS = {"plastic": ((0.9, 0.4), (1.6, 0.4)), "metal": ((1.3, 0.6), (2.2, 0.6))}
"""At which share of the limit some of it, and much of it, is found half the time; its spread."""


def debris_level(what: str, amount: str, share: Floats) -> Floats:
    """Chance of none, some or much, by two thresholds; now and then somebody errs."""
    at_least, most = (cdf((share - half) / spread) for half, spread in DEBRIS[what])
    found = {"none": 1 - at_least, "some": at_least - most, "much": most}[amount]
    return 0.02 + 0.94 * found
