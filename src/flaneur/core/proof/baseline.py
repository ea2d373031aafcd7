"""The engine's own baseline: what later readings may be compared with."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.train import DriveTrain
from flaneur.core.readings.taken import CamReading


def own_baseline_deg(
    book: EngineBook, after: list[CamReading], renewed: list[str]
) -> dict[str, float]:
    """Deviation per cam (crank degrees) that may serve as a baseline after this repair.

    A baseline takes out what never wears, the tone wheels' own offsets. It may only be read where
    nothing else is in it: every chain between crank and cam and every fixed guide of those chains
    new, the phaser parked. Otherwise old wear would hide in the baseline and never be seen again.
    """
    parts = {book.components[c].part for c in renewed}
    train = DriveTrain(book)

    def is_new(chain: str) -> bool:
        return chain in parts and all(
            key in parts for key, guide in book.guides.items() if guide.chain == chain
        )

    return {
        reading.cam: reading.deviation_deg
        for reading in after
        if (reading.phaser.state == "parked" or book.phaser_of(reading.cam) is None)
        and all(is_new(chain) for chain in book.chains if reading.cam in train.cams_of(chain))
    }
