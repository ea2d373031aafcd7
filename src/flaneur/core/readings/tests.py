"""Tests that give no figure of a cam or plunger: what each says as diagnosis takes it."""

from typing import Annotated, Literal

from pydantic import Field

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import ReadingError
from flaneur.core.readings.model import Finite, ReadingModel

BANK_TOP, FOOT, ELSEWHERE = "front_top_", "front_bottom", "elsewhere"
LARGEST_LASH_DEG = 90.0
SlackWord = Literal["taken_up", "not_taken_up", "unknown"]
AmountWord = Literal["none", "some", "much", "not_looked"]
SweepWord = Literal["slow", "drifts", "hunts", "not_parking", "stuck"]
TELLS_ONLY = ("complaint", "codes", "replaced", "noise", "oil", "sweep")
"""Kinds of test that measure and show nothing of the drive itself."""
Seconds = Annotated[float, Field(ge=0, le=3600, allow_inf_nan=False)]
Degrees = Annotated[float, Field(ge=-180, le=180, allow_inf_nan=False)]


class Test(ReadingModel):
    """One test. ``id`` says which reading of a job it is."""

    __test__ = False

    id: str = ""


class Lash(Test):
    """Reverse-rotation lash of a cam, crank degrees; ``beyond_scale``: at least that much."""

    kind: Literal["lash"]
    part: str
    lash_deg: float = Field(ge=0, le=LARGEST_LASH_DEG, allow_inf_nan=False)
    stderr_deg: float = Field(gt=0, le=45, allow_inf_nan=False)
    beyond_scale: bool = False


class ToolFit(Test):
    """Whether an alignment tool goes on a cam with the crank at ``crank_deg``."""

    kind: Literal["tool_fit"]
    part: str
    crank_deg: Finite = 0.0
    fit: Literal["slides_on", "starts", "does_not_start"]
    slack: SlackWord = "unknown"


class MarkMiss(Test):
    """By how much a mark misses what it meets, late positive, read at the crank."""

    kind: Literal["mark_miss"]
    part: str
    miss_deg: Degrees
    stderr_deg: float = Field(gt=0, le=45, allow_inf_nan=False)
    slack: SlackWord = "unknown"


class Links(Test):
    """Links counted between two marks; ``part`` is ``chain.number`` of the count in the book."""

    kind: Literal["links"]
    part: str
    counted: int = Field(ge=0, le=800)
    slack: SlackWord = "unknown"


class Compress(Test):
    """How long a tensioner takes to sink under the book's load, or how it feels. ``part`` is its
    chain.
    """

    kind: Literal["compress"]
    part: str
    seconds: Seconds | None = None
    feel: Literal["firm", "springy", "sinks", "seized"] | None = None


class Debris(Test):
    """Plastic and metal in pan, filter or screens."""

    kind: Literal["debris"]
    plastic: AmountWord = "not_looked"
    metal: AmountWord = "not_looked"


class Endoscope(Test):
    """What an endoscope shows of a guide, an arm, a chain or a sprocket."""

    kind: Literal["endoscope"]
    part: str
    finding: Literal[
        "sound", "worn", "cracked", "broken", "missing", "chain_off", "teeth_hooked", "not_seen"
    ]


class Noise(Test):
    """When and where a noise is heard; ``when`` said and ``seconds`` 0: listened, and none."""

    kind: Literal["noise"]
    when: Literal["cold_start", "hot_idle", "under_load"]
    where: str = Field(default=ELSEWHERE, description="front_top_BANK, front_bottom, or elsewhere")
    seconds: Seconds | None = None
    belt_off: Literal["stays", "goes", "not_tried"] = "not_tried"


def bank_top(bank: str) -> str:
    """Where a noise at the front, at the top of a bank, is said to be."""
    return BANK_TOP + bank.lower()


class Oil(Test):
    """The oil's pressure, level and age."""

    kind: Literal["oil"]
    pressure_kpa: float | None = Field(default=None, ge=0, le=2000, allow_inf_nan=False)
    oil_c: float | None = Field(default=None, ge=-40, le=180, allow_inf_nan=False)
    rpm: float | None = Field(default=None, ge=0, le=10_000, allow_inf_nan=False)
    level: Literal["ok", "low", "unknown"] = "unknown"
    age_h: float | None = Field(default=None, ge=0, le=100_000, allow_inf_nan=False)


class Codes(Test):
    """Fault codes that are set; an empty list: read, and none."""

    kind: Literal["codes"]
    codes: list[Annotated[str, Field(pattern=r"^[PCBU][0-9A-F]{4}$")]]


class Sweep(Test):
    """What a sweep of a phaser came to; an empty ``found``: it answers as the book says."""

    kind: Literal["sweep"]
    part: str
    found: list[SweepWord] = Field(default_factory=list[SweepWord])
    rate_out_deg_s: float | None = Field(default=None, ge=0, allow_inf_nan=False)
    rate_back_deg_s: float | None = Field(default=None, ge=0, allow_inf_nan=False)
    park_deg: Finite | None = None
    oil_c: float | None = Field(default=None, ge=-40, le=180, allow_inf_nan=False)
    oil_kpa: float | None = Field(default=None, ge=0, le=2000, allow_inf_nan=False)


class Complaint(Test):
    """What brings it in."""

    kind: Literal["complaint"]
    rattle: Literal["cold_start", "hot_idle", "none", "unknown"] = "unknown"
    no_start: bool = False
    stood_h: float | None = Field(default=None, ge=0, le=100_000, allow_inf_nan=False)


class Replaced(Test):
    """A part that was replaced before, so many running hours ago."""

    kind: Literal["replaced"]
    part: str
    hours_ago: float = Field(ge=0, le=500_000, allow_inf_nan=False)


AnyTest = Annotated[
    Lash
    | ToolFit
    | MarkMiss
    | Links
    | Compress
    | Debris
    | Endoscope
    | Noise
    | Oil
    | Codes
    | Sweep
    | Complaint
    | Replaced,
    Field(discriminator="kind"),
]


def check_tests(book: EngineBook, tests: list[AnyTest]) -> None:
    """Raise ReadingError for a test of a part the book does not have."""
    faces = {**book.guides, **book.arms}
    counts = [f"{k}.{i}" for k, c in book.chains.items() for i in range(len(c.counts))]
    tensioned = [arm.chain for arm in book.arms.values()]
    known: dict[str, tuple[str, list[str]]] = {
        "lash": ("cam", book.cams),
        "tool_fit": ("cam", book.cams),
        "mark_miss": ("mark", list(book.marks)),
        "links": ("count of links", counts),
        "compress": ("chain with a tensioner", tensioned),
        "endoscope": (
            "part that can be looked at",
            [*faces, *book.chains, *book.tensioners, *book.sprockets],
        ),
        "sweep": ("phaser", list(book.phasers)),
        "replaced": (
            "part that wears",
            [*book.chains, *faces, *book.tensioners, *book.phasers, *book.sprockets],
        ),
    }
    for test in tests:
        what, parts = known.get(test.kind, ("", []))
        part = getattr(test, "part", "")
        if what and part not in parts:
            raise ReadingError(
                f"The book has no such {what}.",
                read=part,
                expected=", ".join(parts) or f"nothing: {book.name} has none",
            )
        if isinstance(test, Compress) and (test.seconds is None) == (test.feel is None):
            raise ReadingError(
                "A tensioner is judged by time or by feel.",
                read="both" if test.feel else "neither",
                expected="seconds, or feel",
            )
