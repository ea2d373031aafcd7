"""Hidden faults and silences against going through every one of them."""

from itertools import product

import numpy as np
import pytest
from tests.support.cluster import ROOT

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.hearing import NOISE_OF, home_of_chain
from flaneur.core.diagnosis.hidden import Flags, oil_weight, together
from flaneur.core.diagnosis.likelihood import Likelihood
from flaneur.core.diagnosis.model import solve_readings
from flaneur.core.diagnosis.silences import slackness
from flaneur.core.keys import SuspectKey, SuspectKind
from flaneur.core.readings.taken import Readings
from flaneur.formats.books import load_book

HEARD: list[list[dict[str, object]]] = [
    [],
    [{"kind": "noise", "when": "cold_start", "where": "front_bottom", "seconds": 3}],
    [{"kind": "noise", "when": "hot_idle", "where": "elsewhere", "belt_off": "goes"}],
    [
        {"kind": "complaint", "rattle": "none", "stood_h": 4},
        {"kind": "noise", "when": "cold_start", "seconds": 0},
        {"kind": "compress", "part": "timing", "feel": "sinks"},
        {"kind": "oil", "pressure_kpa": 90, "oil_c": 92, "level": "low"},
        {"kind": "sweep", "part": "phaser_ex", "found": ["slow"]},
    ],
]


@pytest.fixture(scope="module")
def quillon() -> EngineBook:
    return load_book(ROOT / "engines" / "quillon-sorrel.yaml")


def likelihood_of(book: EngineBook, tests: list[dict[str, object]]) -> Likelihood:
    told = {"engine": book.name, "hours": 3000, "oil": "poor", "tests": tests}
    cams = [{"cam": c, "deviation_deg": 2.0, "stderr_deg": 0.3} for c in book.cams]
    return solve_readings(book, Readings.model_validate(told | {"cams": cams})).likelihood


@pytest.mark.parametrize("tests", HEARD)
@pytest.mark.parametrize("flags", [Flags.of("", ""), Flags.of("phaser_ex", "timing")])
def test_sums_are_those_of_every_set_of_hidden_faults(
    quillon: EngineBook, tests: list[dict[str, object]], flags: Flags
) -> None:
    """Every state of every group, with oil low and not, one after the other."""
    hidden = likelihood_of(quillon, tests).hidden
    number = len(hidden.terms)
    whole, there = np.zeros(number), {key: np.zeros(number) for key in hidden.keys}
    for oil_low in (False, True):
        groups = together(hidden, flags, oil_low)
        for states in product(*(range(len(g.weights)) for g in groups)):
            weight = np.full(number, oil_weight(hidden, oil_low))
            weight = weight * (hidden.oil_silence() if oil_low else 1.0)
            present = {SuspectKey(SuspectKind.OIL_LOW)} if oil_low else set()
            for group, state in zip(groups, states, strict=True):
                weight = weight * group.weights[state] * group.silences[state]
                is_there = group.states[state]
                present |= {k for k, on in zip(group.keys, is_there, strict=True) if on}
            whole += weight
            for key in present:
                there[key] += weight
    sums = hidden.sums(flags)
    assert sums[None] == pytest.approx(whole)
    for key in hidden.keys:
        assert sums[key] == pytest.approx(there[key]), key


def test_groups_weigh_one_before_anything_was_found(quillon: EngineBook) -> None:
    hidden = likelihood_of(quillon, []).hidden
    for oil_low in (False, True):
        for group in together(hidden, Flags.of("", ""), oil_low):
            assert group.weights.sum() == pytest.approx(1.0)
            assert (group.silences == 1).all()
    assert oil_weight(hidden, True) + oil_weight(hidden, False) == pytest.approx(1.0)


@pytest.mark.parametrize("tests", HEARD[1:3])
def test_draws_are_as_silent_as_all_that_is_in_them(
    book: EngineBook, tests: list[dict[str, object]]
) -> None:
    likelihood = likelihood_of(book, tests)
    problem, silences = likelihood.problem, likelihood.silences
    rng = np.random.default_rng(4)
    which = rng.choice(len(problem.members), 40)
    limits = np.array([item.limit for item in problem.items])
    x = np.zeros((40, 3, problem.matrix.shape[1]))
    x[..., : len(limits)] = rng.uniform(0, 2, (40, 3, len(limits))) * limits
    found = silences.drawn(which, x)
    ears = likelihood.hidden.ears
    for row, c in enumerate(which):
        slack = slackness(problem.items, x[row])
        for t, term in enumerate(likelihood.hidden.terms):
            want = np.ones(3)
            for atom in term.atoms:
                want = want * ears.background(atom)
                q = NOISE_OF["slack"][atom.when] * atom.trust
                for chain, slaps in slack.items():
                    want = want * (
                        1 - q * ears.share(home_of_chain(book, chain), atom.places) * slaps
                    )
                for fault in problem.chosen(int(c)):
                    kind, part = fault.key
                    if kind is SuspectKind.GONE:
                        home = home_of_chain(book, book.guides[part].chain)
                        want = want * ears.silence("gone", home, atom)
                    if kind is SuspectKind.STUCK:
                        want = want * ears.silence("stuck", home_of_chain(book, fault.stuck), atom)
            assert found[row, :, t] == pytest.approx(want)


def test_every_configuration_has_the_flags_of_its_faults(book: EngineBook) -> None:
    likelihood = likelihood_of(book, HEARD[1])
    problem = likelihood.problem
    flags, which = likelihood.silences.kinds
    assert len(set(flags)) == len(flags)
    for c in range(len(problem.members)):
        chosen = problem.chosen(c)
        assert flags[which[c]].off_park == {f.phaser for f in chosen if f.phaser}
        assert flags[which[c]].stuck == {f.stuck for f in chosen if f.stuck}
