"""Names of suspects and causes, in the trade's terms."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.attribution import READING, SLACK, WHEEL
from flaneur.core.keys import Contact, SuspectKey, SuspectKind
from flaneur.core.wording import within

_OF_PHASER = {
    SuspectKind.PHASER: "off park",
    SuspectKind.SLOW: "slow",
    SuspectKind.DRIFTS: "drifts",
    SuspectKind.HUNTS: "hunts",
    SuspectKind.LOCK_PIN: "lock pin worn",
    SuspectKind.FEED: "oil feed blocked",
}
_OF_NOTHING = {
    SuspectKind.OIL_LOW: "Oil pressure low",
    SuspectKind.ACCESSORY: "An accessory makes the noise",
    SuspectKind.SEIZED: "A cam has seized",
    SuspectKind.SOUND: "Nothing wrong that these readings show",
    SuspectKind.NONE: "None of these",
}


def suspect_name(book: EngineBook, key: str) -> str:
    """The wording of a suspect, in the trade's terms."""
    kind, part = SuspectKey.of(key)
    if kind in _OF_NOTHING:
        return _OF_NOTHING[kind]
    if kind in _OF_PHASER:
        return f"{book.phasers[part].name} {_OF_PHASER[kind]}"
    if kind is SuspectKind.WEAR:
        return f"{part_name(book, part)} {'elongated' if part in book.chains else 'worn'}"
    if kind is SuspectKind.GONE:
        return f"{book.guides[part].name} broken away"
    if kind is SuspectKind.JUMP:
        chain, sprocket = Contact.of(part)
        return f"{book.chains[chain].name} jumped at the {within(book.sprockets[sprocket].name)}"
    if kind is SuspectKind.TONE:
        return f"{book.tone_wheels[part].name} slipped"
    if kind is SuspectKind.SENSOR:
        return f"Sensor or wiring of the {within(book.shafts[part].name)}"
    if kind is SuspectKind.MISREAD:
        return f"{book.tensioners[part].name}: plunger misread, or not the book's tensioner"
    said = "leaks" if kind is SuspectKind.LEAK else "stuck"
    return f"{book.tensioners[part].name} {said}"


def part_name(book: EngineBook, part: str) -> str:
    """What a part, or a cause that is no part, is called."""
    if part == WHEEL:
        return "Tone wheels"
    if part == SLACK:
        return "Slack, read at rest"
    if part == READING:
        return "Error of the reading"
    for parts in (
        book.chains,
        book.guides,
        book.arms,
        book.tensioners,
        book.phasers,
        book.sprockets,
        book.tone_wheels,
        book.shafts,
    ):
        if part in parts:
            return str(parts[part].name)
    return part
