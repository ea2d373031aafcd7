"""One chain of a book as a loop that can be worn, stretched and solved."""

import math
from dataclasses import dataclass, replace
from functools import cached_property

from scipy.optimize import brentq

from flaneur.core.book.drive import Arm, Guide, Tensioner
from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.arm import arm_pose, clock_to_heading
from flaneur.core.drive.loop import TWO_PI, Disc, Path, belt_radius, pitch_radius, solve_path
from flaneur.core.errors import BookError, Fault

MARCH_MM, MOST_AT_ONCE, SURELY = 0.25, 24, 0.6  # of the way that is left by the slope


@dataclass(frozen=True)
class ChainWear:
    """Elongation as a fraction; liner wear per guide or arm id in mm."""

    elongation: float = 0.0
    liner_mm: tuple[tuple[str, float], ...] = ()

    def of(self, face: str) -> float:
        """Wear of a guide or arm, millimetres."""
        return dict(self.liner_mm).get(face, 0.0)


NEW = ChainWear()


class ChainDrive:
    """Geometry of one chain: plunger extension, lag of each driven sprocket, links between
    marks.
    """

    def __init__(self, book: EngineBook, chain_id: str) -> None:
        self.book = book
        self.id = chain_id
        self.chain = book.chains[chain_id]
        self.pitch_mm = self.chain.pitch_mm

    @cached_property
    def faces(self) -> list[str]:
        """Guides and arms of this chain in travel order."""
        return [d for d in self.chain.loop if d in self.book.guides or d in self.book.arms]

    @cached_property
    def arm_id(self) -> str | None:
        """Key of the arm on this chain; None where there is none."""
        return next((d for d in self.chain.loop if d in self.book.arms), None)

    @cached_property
    def driven(self) -> list[str]:
        """Driven sprockets in travel order."""
        return [d for d in self.chain.loop if d in self.book.sprockets and d != self.chain.driver]

    @property
    def is_belt(self) -> bool:
        """Whether it is a toothed belt."""
        return self.chain.type == "toothed_belt"

    @property
    def has_tensioner(self) -> bool:
        """Whether a tensioner holds it."""
        return self.arm_id is not None

    @property
    def arm(self) -> Arm:
        """The arm that tensions this chain. Raises BookError for a chain without one."""
        if self.arm_id is None:
            raise BookError(
                f"The {self.chain.name} has no tensioner.",
                [Fault(f"chains.{self.id}.loop", "no arm in it")],
                read="no plunger",
            )
        return self.book.arms[self.arm_id]

    @property
    def tensioner(self) -> Tensioner:
        """Its tensioner. Raises BookError for a chain without one."""
        return self.book.tensioners[self.arm.tensioner]

    @property
    def book_plunger_mm(self) -> float:
        """The book's plunger extension; nought for a chain without tensioner, whose loop has
        nothing to move.
        """
        return self.tensioner.book_plunger_mm if self.has_tensioner else 0.0

    def radius_mm(self, sprocket: str) -> float:
        """Pitch radius of one of this chain's sprockets, or of a belt's pulleys."""
        law = belt_radius if self.is_belt else pitch_radius
        return law(self.pitch_mm, self.book.sprockets[sprocket].teeth)

    def discs(self, plunger_mm: float, wear: ChainWear = NEW) -> list[Disc]:
        """The loop's discs at a plunger extension and wear. Lengths in mm."""
        result: list[Disc] = []
        for item in self.chain.loop:
            if item in self.book.sprockets:
                sprocket = self.book.sprockets[item]
                result.append(
                    Disc(item, *sprocket.at_mm, self.radius_mm(item), sprocket.wrap, sprocket.teeth)
                )
            elif item in self.book.arms:
                arm = self.book.arms[item]
                worn = min(wear.of(item), arm.liner_mm)
                face = arm_pose(
                    item, arm, self.book.tensioners[arm.tensioner], plunger_mm, worn
                ).disc
                result.append(replace(face, is_smooth=self.is_belt))
            else:
                guide: Guide = self.book.guides[item]
                radius = guide.radius_mm - min(wear.of(item), guide.liner_mm)
                result.append(
                    Disc(item, *guide.centre_mm, radius, guide.wrap, is_smooth=self.is_belt)
                )
        return result

    def path(self, plunger_mm: float, wear: ChainWear = NEW) -> Path:
        """The loop with the plunger out by ``plunger_mm``, in a state of wear."""
        return solve_path(self.discs(plunger_mm, wear))

    def links_needed(self, plunger_mm: float, wear: ChainWear = NEW) -> float:
        """Links the taut loop takes up at this extension and wear."""
        return self.path(plunger_mm, wear).links(self.pitch_mm, wear.elongation)

    def plunger_mm(self, wear: ChainWear = NEW) -> float:
        """Plunger extension at which the loop takes exactly the chain's own links.

        Marched outwards from the book extension in quarter millimetres, or in as many at once as
        are surely before the root by the slope so far, so that the root found is the mechanical
        one; then closed with Brent's method. Where the plunger runs out of travel the stop is
        returned (the chain hangs slack). Raises BookError when the loop has no extension at which
        it fits.
        """
        tensioner = self.tensioner
        book_mm = tensioner.book_plunger_mm

        def excess(x: float) -> float:
            return self.links_needed(x, wear) - self.chain.links

        here = excess(book_mm)
        if abs(here) < 1e-12:
            return book_mm
        step = MARCH_MM if here < 0 else -MARCH_MM
        x, at, times = book_mm, here, 1
        while 0 <= x + step <= tensioner.max_plunger_mm:
            while times > 1 and not 0 <= x + times * step <= tensioner.max_plunger_mm:
                times -= 1
            then = x + times * step
            try:
                there = excess(then)
            except BookError:
                if times == 1:
                    break
                times = 1
                continue
            if (there < 0) != (here < 0):
                low, high = sorted((x, then))
                return float(brentq(excess, low, high, xtol=1e-12))
            nearer = (at - there) / times  # to nought, by a step
            left = SURELY * there / nearer if nearer * there > 0 else 1.0
            x, at, times = then, there, max(1, int(min(left, MOST_AT_ONCE)))
        if here < 0:
            return x
        raise BookError(
            f"The {self.chain.name} does not fit its loop at any plunger extension.",
            [
                Fault(
                    f"chains.{self.id}.links",
                    f"{self.chain.links} links, the loop needs {here + self.chain.links:.2f}",
                )
            ],
        )

    def slack_links(self, wear: ChainWear = NEW) -> float:
        """Links to spare in a chain without tensioner: its own count less what the taut loop
        takes.
        """
        return self.chain.links - self.links_needed(0.0, wear)

    @cached_property
    def book_path(self) -> Path:
        """The loop as new, with the plunger where the book has it."""
        return self.path(self.book_plunger_mm)

    @cached_property
    def links_per_plunger_mm(self) -> float:
        """Slope of the links needed over plunger extension at the book position."""
        x = self.tensioner.book_plunger_mm
        return (self.links_needed(x + 0.01) - self.links_needed(x - 0.01)) / 0.02

    def taken_up_mm(self, plunger_mm: float) -> float:
        """Path (mm of chain) the tensioner has taken up beyond the book at a measured extension."""
        book_links = self.links_needed(self.tensioner.book_plunger_mm)
        return (self.links_needed(plunger_mm) - book_links) * self.pitch_mm

    def _phase_links(self, path: Path, sprocket: str, wear: ChainWear) -> float:
        """M = m − s_c·z_c·α_c/2π + s_d·z_d·α_d/2π from a driven sprocket to the driver along the
        tight strand.
        """
        c, d = path.index(sprocket), path.index(self.chain.driver)
        driven, driver = path.discs[c], path.discs[d]
        m = path.links_between(c, d, self.pitch_mm, wear.elongation)
        arrival = path.headings[c]
        i = c
        while i != d:
            i = (i + 1) % len(path.discs)
            if i != d:
                arrival -= path.discs[i].wrap * path.turns[i]
        # ``arrival`` now is the heading of the strand that reaches the driver, unwrapped from the
        # departure.
        return (
            m
            - driven.wrap * driven.teeth * path.headings[c] / TWO_PI
            + driver.wrap * driver.teeth * arrival / TWO_PI
        )

    def lags_deg(self, wear: ChainWear, plunger_mm: float | None = None) -> dict[str, float]:
        """Lag of each driven sprocket against its driver in degrees of the driven shaft, later
        positive.
        """
        x = (
            plunger_mm
            if plunger_mm is not None
            else self.plunger_mm(wear)
            if self.has_tensioner
            else 0.0
        )
        now = self.path(x, wear)
        lags: dict[str, float] = {}
        for sprocket in self.driven:
            teeth = self.book.sprockets[sprocket].teeth
            links = self._phase_links(self.book_path, sprocket, NEW) - self._phase_links(
                now, sprocket, wear
            )
            # Headings are unwrapped along the path, yet each path starts from its own principal
            # value; both terms of M then move together by whole teeth of driven and driver, which
            # is taken back out here.
            driver_teeth = self.book.sprockets[self.chain.driver].teeth
            turn = round(
                (
                    now.headings[now.index(sprocket)]
                    - self.book_path.headings[self.book_path.index(sprocket)]
                )
                / TWO_PI
            )
            links += turn * (
                driver_teeth * self._wrap(self.chain.driver) - teeth * self._wrap(sprocket)
            )
            lags[sprocket] = links * 360.0 / teeth
        return lags

    def _wrap(self, sprocket: str) -> int:
        return self.book.sprockets[sprocket].wrap

    def links_to_departure(self, sprocket: str) -> float:
        """Links from a sprocket's marked tooth to where the chain leaves it, in travel direction at
        the book position.
        """
        part = self.book.sprockets[sprocket]
        heading = self.book_path.headings[self.book_path.index(sprocket)]
        return (
            _signed_turn(part.wrap, clock_to_heading(part.mark_clock_deg), heading)
            * part.teeth
            / TWO_PI
        )

    def mark_links(self, start: str, end: str) -> float:
        """Links from the marked tooth of ``start`` to that of ``end`` in travel direction at the
        book position.
        """
        path = self.book_path
        a, b = path.index(start), path.index(end)
        last = self.book.sprockets[end]
        reaching = path.turns[b] - _signed_turn(
            last.wrap, clock_to_heading(last.mark_clock_deg), path.headings[b]
        )
        between = path.links_between(a, b, self.pitch_mm, 0.0)
        if not self.has_tensioner and (a == 0 or 0 < b < a):
            between += (
                self.slack_links()
            )  # what is to spare hangs in the strand that leaves the driver
        return self.links_to_departure(start) + between + reaching * last.teeth / TWO_PI


def _signed_turn(wrap: int, mark_heading: float, departure: float) -> float:
    """Turn from a mark to the departure tangent, in travel direction, taken between −90° and
    270°.
    """
    tangent = departure + wrap * math.pi / 2
    return (wrap * (mark_heading - tangent) + math.pi / 2) % TWO_PI - math.pi / 2
