"""What was measured, as diagnosis takes it: crank degrees late and plunger extensions, each with
its error.
"""

from typing import Literal, get_args

from pydantic import Field

from flaneur.core.book.bands import Bands
from flaneur.core.book.schema import EngineBook, Phaser
from flaneur.core.engine.compiled import compiled
from flaneur.core.errors import ReadingError
from flaneur.core.measuring.told import AccessoryNoise, OilState
from flaneur.core.readings.model import Finite, ReadingModel
from flaneur.core.readings.tests import TELLS_ONLY, AnyTest, check_tests
from flaneur.core.wording import late_words

PhaserWord = Literal["parked", "commanded", "unknown", "none"]
FARTHEST_DEG = 150.0  # several teeth, a phaser at its end, and more
PHASER_STATES: tuple[PhaserWord, ...] = get_args(PhaserWord)


class PhaserState(ReadingModel):
    """State of the cam's phaser while it was read. ``command_deg`` is crank degrees away from
    park.
    """

    state: PhaserWord = "unknown"
    command_deg: float = Field(default=0.0, ge=0, allow_inf_nan=False)

    @property
    def words(self) -> str:
        """The state in words."""
        return f"commanded to {self.command_deg:g}°" if self.state == "commanded" else self.state


class CamReading(ReadingModel):
    """A cam's deviation in crank degrees, late positive, with its standard error."""

    id: str = ""
    cam: str
    deviation_deg: Finite
    stderr_deg: float = Field(gt=0, allow_inf_nan=False)
    phaser: PhaserState = PhaserState()


class PlungerReading(ReadingModel):
    """A tensioner's plunger extension in millimetres with its standard error; ``chain`` names whose
    tensioner.
    """

    id: str = ""
    chain: str
    plunger_mm: float = Field(ge=0, allow_inf_nan=False)
    stderr_mm: float = Field(gt=0, allow_inf_nan=False)


class DirectReading(ReadingModel):
    """Wear measured on the part itself: ``part`` is a chain (per cent elongation), a guide or an
    arm (millimetres).
    """

    id: str = ""
    part: str
    value: Finite
    stderr: float = Field(gt=0, allow_inf_nan=False)


class Learned(ReadingModel):
    """How one kind of part wears in the shop's engines, beside what the book says."""

    kind: Literal["chain", "guide", "arm"]
    times: float = Field(
        gt=0, le=20, allow_inf_nan=False, description="Ordinary wear, as times the book's."
    )
    known_to: float = Field(
        ge=0, le=2, allow_inf_nan=False, description="Standard deviation of its logarithm."
    )
    out_of_turn: float = Field(
        default=1.0, gt=0, le=20, description="Worn out of turn so many times as often."
    )
    engines: int = Field(ge=0, description="Engines it was learned from.")
    parts: int = Field(ge=0, description="Parts measured on them.")

    @property
    def words(self) -> str:
        """What it says, and from how many."""
        engines = "engine" if self.engines == 1 else "engines"
        name = {"chain": "Chains", "guide": "Guides", "arm": "Tensioner arms"}[self.kind]
        return (
            f"{name} wear {self.times:.2f} times as the book says "
            f"({self.parts} measured, {self.engines} {engines})."
        )


Method = Literal["cam", "plunger", "lash", "mark_miss"]
METHOD_WORDS: dict[Method, str] = {
    "cam": "Cam readings",
    "plunger": "Plunger readings",
    "lash": "Lash readings",
    "mark_miss": "Mark readings",
}


class Missed(ReadingModel):
    """By how much one figure missed what measured parts make it, ``by``, in its own unit; ``own``:
    the variance it says of itself, ``rest``: that of all else, of parts nobody measured too.
    """

    method: Method
    by: Finite
    own: float = Field(gt=0, allow_inf_nan=False)
    rest: float = Field(ge=0, allow_inf_nan=False)


class LearnedErrors(ReadingModel):
    """How much one way of reading errs in this shop, as ``times`` what readings say of themselves;
    ``readings``: how many were held against measured parts.
    """

    method: Method
    times: float = Field(gt=0.1, le=10, allow_inf_nan=False)
    readings: int = Field(ge=0)

    @property
    def words(self) -> str:
        """What it says, and from how many."""
        held = "reading" if self.readings == 1 else "readings"
        return (
            f"{METHOD_WORDS[self.method]} err {self.times:.2f} times as much as they say "
            f"({self.readings} {held} held against measured parts)."
        )


class Readings(ReadingModel):
    """All that diagnosis may use. ``hours`` is running time, None when unknown; ``baseline_deg``
    the engine's own.
    """

    engine: str
    hours: float | None = Field(default=None, ge=0, allow_inf_nan=False)
    oil: OilState = OilState.UNKNOWN
    accessories: AccessoryNoise = AccessoryNoise.UNKNOWN
    cams: list[CamReading] = Field(default_factory=list[CamReading])
    plungers: list[PlungerReading] = Field(default_factory=list[PlungerReading])
    direct: list[DirectReading] = Field(default_factory=list[DirectReading])
    tests: list[AnyTest] = Field(default_factory=list[AnyTest])
    set_aside: list[CamReading] = Field(
        default_factory=list[CamReading],
        description="Figures no chain drive can show: kept, said, and not used.",
    )
    baseline_deg: dict[str, Finite] = Field(default_factory=dict)
    learned: list[Learned] = Field(
        default_factory=list[Learned], description="How parts wear in the shop's engines."
    )
    errors: list[LearnedErrors] = Field(
        default_factory=list[LearnedErrors], description="How much readings err in this shop."
    )
    bands: Bands | None = Field(
        default=None, description="What the shop judges by where the book gives no limit."
    )

    @property
    def used(self) -> int:
        """How many readings and tests there are; what was put in since is no reading."""
        tests = sum(test.kind != "replaced" for test in self.tests)
        return len(self.cams) + len(self.plungers) + len(self.direct) + tests

    @property
    def is_measured(self) -> bool:
        """Whether anything of the drive was measured or seen: more than was told or heard."""
        figures = bool(self.cams or self.plungers or self.direct)
        return figures or any(test.kind not in TELLS_ONLY for test in self.tests)

    @property
    def unread(self) -> "Readings":
        """The same engine before any reading: its hours, its oil, what was put in since."""
        since: list[AnyTest] = [t for t in self.tests if t.kind == "replaced"]
        return Readings(
            engine=self.engine,
            hours=self.hours,
            oil=self.oil,
            accessories=self.accessories,
            tests=since,
            learned=self.learned,
            bands=self.bands,
        )

    def check_against(self, book: EngineBook) -> None:
        """Raise ReadingError for a cam or chain the book does not know, or another engine's
        readings.
        """
        if self.engine != book.name:
            raise ReadingError(
                "These readings belong to another engine.",
                read=self.engine,
                expected=book.name,
                advice="Choose the engine book that fits.",
            )
        check_tests(book, self.tests)
        for reading in self.cams:
            if reading.cam not in book.cams:
                raise ReadingError(
                    "The book has no such cam.", read=reading.cam, expected=", ".join(book.cams)
                )
            refuse_too_far(reading.deviation_deg)
        for reading in self.direct:
            if reading.part not in {**book.chains, **book.guides, **book.arms}:
                raise ReadingError("The book has no such chain, guide or arm.", read=reading.part)
            if not speaks_of_timing(book, reading.part):
                raise ReadingError(
                    "This part times nothing: its wear is judged by its own limit.",
                    read=reading.part,
                )
        for reading in self.plungers:
            if reading.chain not in book.chains:
                raise ReadingError(
                    "The book has no such chain.",
                    read=reading.chain,
                    expected=", ".join(book.chains),
                )
            if book.arm_of(reading.chain) is None:
                raise ReadingError(
                    "This chain has no tensioner: there is no plunger to measure.",
                    read=book.chains[reading.chain].name,
                )
            if not speaks_of_timing(book, reading.chain):
                raise ReadingError(
                    "This chain times nothing: its wear is judged by its own limit.",
                    read=reading.chain,
                )


def refuse_too_far(deviation_deg: float) -> None:
    """Raise ReadingError for a deviation that no chain drive can show, crank degrees."""
    if abs(deviation_deg) > FARTHEST_DEG:
        raise ReadingError(
            "No chain drive can show this.",
            read=late_words(deviation_deg),
            expected=f"within {FARTHEST_DEG:g}° of the book, whatever is worn or jumped",
            advice="It is another engine's figure, or mistyped: read again.",
        )


def speaks_of_timing(book: EngineBook, part: str) -> bool:
    """Whether wear of a chain, guide or arm has to do with any cam."""
    face = book.guides.get(part) or book.arms.get(part)
    return compiled(book).train.times_cams(face.chain if face else part)


def phaser_shift_deg(phaser: Phaser, state: PhaserState) -> tuple[float, float]:
    """Mean shift and standard deviation (crank degrees, late positive) that a sound phaser's state
    adds to a reading.

    Unknown spreads evenly over the whole range: mean half the range, deviation range/√12.
    """
    sign = phaser.late_sign
    if state.state == "parked":
        return 0.0, phaser.park_tolerance_deg / 2
    if state.state == "commanded":
        return sign * state.command_deg, phaser.steady_error_deg
    return sign * phaser.range_deg / 2, phaser.range_deg / 12**0.5
