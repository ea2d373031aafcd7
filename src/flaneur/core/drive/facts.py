"""What the book knows of each part of the drive, as labelled facts."""

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.chain import ChainWear
from flaneur.core.drive.train import DriveTrain
from flaneur.core.drive.turns import coming_back

FIXED = {
    "key": "on a key",
    "dowel": "on a dowel",
    "slots": "in slots, with travel",
    "taper": "on a plain taper: nothing but the bolt's clamp positions it",
    "phaser": "on its phaser",
    "one_piece": "one piece with its shaft",
}


class Fact(BaseModel):
    """Something known of a part: what it is, and its value in words."""

    model_config = ConfigDict(frozen=True)

    label: str
    value: str


class PartFacts(BaseModel):
    """A part of the drive and what the book says of it."""

    model_config = ConfigDict(frozen=True)

    part: str
    name: str
    kind: str
    facts: list[Fact]


def part_facts(book: EngineBook) -> list[PartFacts]:
    """Facts of every chain, sprocket, gear, guide, arm, tensioner and phaser."""
    train = DriveTrain(book)
    turns = coming_back(train)
    result = [_chain(train, key, turns.chains[key]) for key in book.chains]
    for key, s in book.sprockets.items():
        facts = [
            Fact(label="Teeth", value=f"{s.teeth}, {train.tooth_deg(key):.1f}° of the crank each"),
            Fact(
                label="Sits",
                value=FIXED[s.fixed_by] + (f" of {s.slot_deg:g}°" if s.slot_deg else ""),
            ),
            Fact(
                label="Shaft",
                value=f"{book.shafts[s.shaft].name}, once in {train.crank_per_turn[s.shaft]:g} "
                "crank turns",
            ),
            *_marks(book, key),
        ]
        result.append(PartFacts(part=key, name=s.name, kind="sprocket", facts=facts))
    for key, g in book.gears.items():
        facts = [
            Fact(label="Teeth", value=f"{g.teeth}, module {g.module_mm:g} mm"),
            *_marks(book, key),
        ]
        result.append(PartFacts(part=key, name=g.name, kind="gear", facts=facts))
    for kind, faces in (("guide", book.guides), ("arm", book.arms)):
        for key, face in faces.items():
            facts = [
                Fact(
                    label="Liner",
                    value=f"{face.liner_mm:g} mm new, at most {face.limit_wear_mm:g} mm worn",
                ),
                Fact(label="Chain", value=book.chains[face.chain].name),
            ]
            result.append(PartFacts(part=key, name=face.name, kind=kind, facts=facts))
    for key, t in book.tensioners.items():
        hold = (
            f"ratchet, {t.notch_mm:g} mm a notch"
            if t.notch_mm
            else f"no ratchet, goes back to {t.stop_mm:g} mm"
        )
        facts = [
            Fact(
                label="Plunger",
                value=f"{t.book_plunger_mm:g} mm out as new, at most {t.max_plunger_mm:g} mm",
            ),
            Fact(label="Holds by", value=hold),
            Fact(label="Let go", value=t.release),
        ]
        result.append(PartFacts(part=key, name=t.name, kind="tensioner", facts=facts))
    for key, p in book.phasers.items():
        facts = [
            Fact(label="Travel", value=f"{p.range_deg:g}° of the crank, {p.moves}s from park"),
            Fact(label="Park", value=f"within {p.park_tolerance_deg:g}°"),
        ]
        result.append(PartFacts(part=key, name=p.name, kind="phaser", facts=facts))
    return result


def _chain(train: DriveTrain, key: str, turns: int) -> PartFacts:
    book, drive = train.book, train.chains[key]
    chain = drive.chain
    unit = "teeth" if drive.is_belt else "links"
    facts = [
        Fact(
            label="Length",
            value=f"{chain.links} {unit} of {chain.pitch_mm:g} mm, {chain.type.replace('_', ' ')}",
        ),
        Fact(label="Limit", value=f"{chain.limit_elongation_pct:g} % longer"),
    ]
    if train.times_cams(key):
        facts.append(Fact(label="A tenth of a per cent longer", value=_longer(train, key)))
    if not drive.has_tensioner:
        facts.append(
            Fact(
                label="Tensioner",
                value=f"none; {drive.slack_links() * drive.pitch_mm:.1f} mm to spare when new",
            )
        )
    if chain.counts:
        words = "; ".join(
            f"{c.links} from {book.sprockets[c.start].name} to {book.sprockets[c.end].name}"
            for c in chain.counts
        )
        facts.append(Fact(label="Counts", value=words))
        facts.append(Fact(label="Marks agree again", value=f"after {turns} crank turns"))
    elif train.times_cams(key):
        facts.append(Fact(label="Counts", value="none: it is timed by its marks alone"))
    else:
        facts.append(Fact(label="Counts", value="nothing to time"))
    return PartFacts(part=key, name=chain.name, kind="chain", facts=facts)


def _longer(train: DriveTrain, key: str) -> str:
    """What 0.1 % of elongation does on a new drive: lag of each driven shaft in crank degrees, and
    the plunger.
    """
    book, drive, worn = train.book, train.chains[key], ChainWear(0.001)
    said: list[str] = []
    for sprocket, lag in drive.lags_deg(worn).items():
        shaft = book.sprockets[sprocket].shaft
        said.append(f"{book.shafts[shaft].name} {lag * train.crank_per_turn[shaft]:.1f}° later")
    if drive.has_tensioner:
        said.append(f"plunger {drive.plunger_mm(worn) - drive.plunger_mm():.1f} mm further out")
    return "; ".join(said)


def _marks(book: EngineBook, wheel: str) -> list[Fact]:
    return [
        Fact(
            label=m.name,
            value=f"meets {m.meets}" if m.is_timing else f"no timing mark: {m.purpose}",
        )
        for m in book.marks.values()
        if m.wheel == wheel
    ]


def limit_facts(book: EngineBook) -> list[Fact]:
    """The limits of an engine as a whole."""
    limits = book.limits
    facts = [
        Fact(
            label="Cam against the book", value=f"within {limits.cam_deviation_deg:g}° of the crank"
        )
    ]
    if limits.lash_bands_deg:
        fine, replace = limits.lash_bands_deg
        facts.append(
            Fact(
                label="Lash, turned back",
                value=f"fine to {fine:g}°, replace from {replace:g}° (a shop's rule)",
            )
        )
    if limits.oil_kpa_hot_idle:
        facts.append(
            Fact(label="Oil pressure, hot idle", value=f"at least {limits.oil_kpa_hot_idle:g} kPa")
        )
    return facts
