"""The verdict on an engine of one chain without tensioner, worked out by going through everything:
every elongation on a fine grid, every set of faults, every hidden fault. Nothing of the inference
is used, only its table of how often things show.
"""

from dataclasses import dataclass
from itertools import product

import numpy as np
from scipy.stats import norm

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis import abrupt, effects, hearing, observe, problem, wear
from flaneur.core.diagnosis.codes import correlation_code, sensor_codes
from flaneur.core.diagnosis.odds import ORDINARY
from flaneur.core.drive.lash import shaft_lash_deg
from flaneur.core.drive.train import DriveTrain
from flaneur.core.faults.model import Faults
from flaneur.core.readings.taken import Readings

GRID = 1500


@dataclass(frozen=True)
class Shown:
    """What each elongation of a grid shows: per cent, degrees late, degrees of lash."""

    pct: np.ndarray
    late: np.ndarray
    lash: np.ndarray


def shown(book: EngineBook) -> Shown:
    """What every elongation shows, by the solver of the drive."""
    train, (chain,), (cam,) = DriveTrain(book), list(book.chains), book.cams
    most = 4 * book.chains[chain].limit_elongation_pct
    pct = np.linspace(0, most, GRID)
    few = np.linspace(0, most, 60)
    late, lash = [], []
    for value in few:
        faults = Faults(elongation_pct={chain: float(value)})
        late.append(train.state(faults).deviation_deg[cam])
        lash.append(shaft_lash_deg(train, faults)[cam])
    return Shown(pct, np.interp(pct, few, late), np.interp(pct, few, lash))


def brute_shares(book: EngineBook, readings: Readings, seen: Shown) -> dict[str, float]:
    """Probability of every suspect."""
    (chain,) = list(book.chains)
    part = book.chains[chain]
    limit, tooth = part.limit_elongation_pct, DriveTrain(book).tooth_deg(part.driver)
    (item,) = wear.unknowns(book, readings.hours, readings.oil)
    members = len(DriveTrain(book).contacts())
    jump_prior = min(0.3, book.limits.jump_prior * members)
    jumps = {0: 1.0} | {
        t: jump_prior * s / (1 - jump_prior * s) for t, s in abrupt.TEETH_SHARE.items()
    }
    worn_odds = part.wear.worn_out / (1 - part.wear.worn_out)
    total: dict[str, float] = {"none": 0.0, "sound": 0.0}
    whole = 0.0
    for scene, is_worn, teeth in product(effects.SCENES, (False, True), jumps):
        mean, sd = item.mean * scene.wear, item.sd * wear.spread_of(scene.wear)
        if is_worn:
            mean, sd = (k * limit for k in wear.WORN_OUT)
        weight = scene.odds * jumps[teeth] * (worn_odds if is_worn else 1.0)
        share = _given(
            book, readings, seen, seen.late + teeth * tooth, scene.errors, (mean, sd, weight), total
        )
        over = share[seen.pct > limit].sum()
        whole += share.sum()
        for key, value in (("wear", over), ("jump", share.sum() if teeth else 0.0)):
            total[key] = total.get(key, 0.0) + value
        if not teeth:
            total["sound"] += share[seen.pct <= limit].sum()
    mean, sd = item.mean, item.sd
    none = _given(
        book, readings, seen, seen.late, 1.0, (mean, sd, problem.NONE_PRIOR), total, is_none=True
    ).sum()
    whole += none
    total["none"] = none
    for row in readings.cams:
        sd_row = float(np.hypot(row.stderr_deg, observe.EDGE_SD_DEG))
        total["sound"] *= norm.cdf(
            (book.limits.cam_deviation_deg - abs(row.deviation_deg)) / sd_row
        )
    return {key: value / whole for key, value in total.items()}


def _given(
    book: EngineBook,
    readings: Readings,
    seen: Shown,
    late: np.ndarray,
    errors: float,
    prior: tuple[float, float, float],
    total: dict[str, float],
    *,
    is_none: bool = False,
) -> np.ndarray:
    """Weight of every elongation under one hypothesis; what it gives hidden faults goes into
    ``total``.
    """
    mean, sd, weight = prior
    density = norm.pdf(seen.pct, mean, sd) / norm.cdf(mean / sd) * (seen.pct[1] - seen.pct[0])
    density[0] /= 2
    density = weight * density * _figures(book, readings, seen, late, errors, is_none)
    for test in readings.tests:
        if test.kind == "tool_fit":
            density = density * _tool(test, late)
        elif test.kind == "debris" and test.metal != "not_looked":
            share = seen.pct / book.chains[next(iter(book.chains))].limit_elongation_pct
            some, much = norm.cdf((share - 1.3) / 0.6), norm.cdf((share - 2.2) / 0.6)
            odds = {"none": 1 - some, "some": some - much, "much": much}[test.metal]
            density = density * (0.02 + 0.94 * odds)
        elif test.kind == "codes":
            density = density * _codes(book, test.codes, late)
        elif test.kind == "complaint":
            far = 0.02 + 0.9 * norm.cdf((np.abs(late) - 35) / 8)
            start = (1 - ORDINARY.seized) * far
            stays = start + 0.9 * ORDINARY.seized
            density = density * (stays if test.no_start else 1 - 0.5 * start)
    by_hidden = _hidden(book, readings, seen)
    for key in ("oil_low", "accessory"):
        total[key] = total.get(key, 0.0) + float(
            sum((density * w).sum() for states, w in by_hidden if states[key])
        )
    return density * sum(w for _, w in by_hidden)


def _figures(
    book: EngineBook,
    readings: Readings,
    seen: Shown,
    late: np.ndarray,
    errors: float,
    is_none: bool,
) -> np.ndarray:
    """Joint density of all figures, tolerances shared by readings of one thing."""
    value, expected, sd, shared = [], [], [], []
    for row in readings.cams:
        value.append(row.deviation_deg)
        expected.append(late)
        sd.append(np.hypot(row.stderr_deg, observe.EDGE_SD_DEG))
        loose = 0.5 * seen.lash[0]  # no tensioner: at rest its slack lies on either side
        tolerance = np.hypot(book.crank_tolerance_deg, book.cam_tolerance_deg(row.cam))
        shared.append(("cam", np.hypot(tolerance, loose)))
    for row in readings.direct:
        value.append(row.value)
        expected.append(seen.pct)
        sd.append(row.stderr)
        shared.append(("", 0.0))
    for test in readings.tests:
        if test.kind == "lash":
            value.append(test.lash_deg)
            expected.append(seen.lash)
            sd.append(test.stderr_deg)
            shared.append(("lash", observe.LASH_SD_DEG))
    if not value:
        return np.ones_like(late)
    n = len(value)
    noise = np.diag(np.array(sd) ** 2) * errors**2
    for i, j in product(range(n), repeat=2):
        if shared[i][0] == shared[j][0] or i == j:
            noise[i, j] += shared[i][1] * shared[j][1]
    if is_none:
        wide = [2.0 if s[0] == "" else effects.NONE_SD for s in shared]
        noise += np.diag(np.array(wide) ** 2)
    left = np.array(value)[:, None] - np.stack(expected)
    quad = np.einsum("ik,ij,jk->k", left, np.linalg.inv(noise), left)
    return np.exp(-0.5 * quad) / np.sqrt(np.linalg.det(2 * np.pi * noise))


def _codes(book: EngineBook, codes: list[str], late: np.ndarray) -> np.ndarray:
    (cam,) = book.cams
    far = norm.cdf((np.abs(late) - 8.0) / 2.5)
    total = np.zeros_like(late)
    for faulty in (0, 1):
        p = ORDINARY.sensor if faulty else 1 - ORDINARY.sensor
        quiet = 0.99 * (1 - 0.9 * far) * (1 - 0.3 * faulty)
        silent = 0.995 * (1 - 0.8 * faulty)
        is_set = correlation_code(book, cam) in codes
        is_sensor = any(c in codes for c in sensor_codes(book, cam))
        total += p * (1 - quiet if is_set else quiet) * (1 - silent if is_sensor else silent)
    return total


def _hidden(
    book: EngineBook, readings: Readings, seen: Shown
) -> list[tuple[dict[str, bool], np.ndarray]]:
    """Every set of hidden faults with its weight for every elongation: prior, oil, and the chance
    that its causes give just what was heard.
    """
    ears = hearing.ears_of(book)
    chain = next(iter(book.chains))
    slack = norm.cdf((seen.pct / book.chains[chain].limit_elongation_pct - 1.1) / 0.25)
    found = []
    for oil, accessory in product((False, True), repeat=2):
        weight = _oil(book, readings, oil)
        weight *= ORDINARY.accessory if accessory else 1 - ORDINARY.accessory
        causes = [("slack", hearing.home_of_chain(book, chain), slack)]
        causes += [("oil_low", "front_bottom", np.ones_like(slack))] if oil else []
        causes += [("accessory", "elsewhere", np.ones_like(slack))] if accessory else []
        chance = np.full_like(slack, weight)
        for test in readings.tests:
            if test.kind == "noise":
                chance = chance * _heard(ears, causes, test)
            elif test.kind == "complaint" and test.rattle != "unknown":
                chance = chance * _told(ears, causes, test)
        found.append(({"oil_low": oil, "accessory": accessory}, chance))
    return found


def _tool(test, late):  # type: ignore[no-untyped-def]
    sd = np.hypot(1.0, {"taken_up": 0.0, "unknown": 3.0, "not_taken_up": 5.0}[test.slack])
    slides, starts = norm.cdf((2.0 - np.abs(late)) / sd), norm.cdf((6.0 - np.abs(late)) / sd)
    fit = {"slides_on": slides, "starts": starts - slides, "does_not_start": 1 - starts}
    return 0.01 + 0.97 * fit[test.fit]


def _oil(book: EngineBook, readings: Readings, is_low: bool) -> float:
    poor = {"good": 0.0, "poor": 1.0, "unknown": 0.5}[readings.oil]
    prior = ORDINARY.oil_low + poor * (ORDINARY.oil_low_poor - ORDINARY.oil_low)
    weight = prior if is_low else 1 - prior
    for test in readings.tests:
        if test.kind != "oil":
            continue
        if test.level != "unknown":
            low = 0.4 if is_low else 0.08
            weight *= low if test.level == "low" else 1 - low
        least = book.limits.oil_kpa_hot_idle
        if test.pressure_kpa is not None and least is not None and (test.oil_c or 0) >= 80:
            times = 0.6 if is_low else 1.5
            weight *= float(np.exp(-0.5 * ((test.pressure_kpa / least - times) / 0.25) ** 2))
    return weight


def _silent(ears, causes, when, places, trust=1.0, without=()):  # type: ignore[no-untyped-def]
    """Chance that nothing sounds at these places."""
    quiet = 1.0 - hearing.BACKGROUND * len(places) / len(ears.places) * trust
    for cause, home, there in causes:
        if cause not in without:
            chance = hearing.NOISE_OF[cause][when] * ears.share(home, frozenset(places)) * trust
            quiet = quiet * (1 - chance * there)
    return quiet


def _heard(ears, causes, test):  # type: ignore[no-untyped-def]
    places = list(ears.places)
    if test.seconds == 0:
        return _silent(ears, causes, test.when, places)
    if test.belt_off == "goes":
        rest = _silent(ears, causes, test.when, places, without=("accessory",))
        return rest - _silent(ears, causes, test.when, places)
    without = ("accessory",) if test.belt_off == "stays" else ()
    first = places.index(test.where if test.where in places else "elsewhere")
    before = _silent(ears, causes, test.when, places[:first], without=without)
    return before - _silent(ears, causes, test.when, places[: first + 1], without=without)


def _told(ears, causes, test):  # type: ignore[no-untyped-def]
    stood = 1.0 if test.stood_h is None else min(1.0, test.stood_h / hearing.STOOD_H)
    trust = hearing.UNSAID
    places = list(ears.places)
    if test.rattle == "none":
        cold = _silent(ears, causes, "cold_start", places, trust * stood)
        return cold * _silent(ears, causes, "hot_idle", places, trust)
    by = trust * stood if test.rattle == "cold_start" else trust
    return 1 - _silent(ears, causes, test.rattle, places, by)
