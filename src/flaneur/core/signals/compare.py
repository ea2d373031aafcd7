"""Two captures of one engine against each other: what changed, and whether it is more than
chance.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from flaneur.core.book.schema import EngineBook


@dataclass(frozen=True)
class CamChange:
    """Change of one cam from the first capture to the second, crank degrees, with its standard
    error; ``words`` say it.
    """

    cam: str
    name: str
    first_deg: float
    second_deg: float
    change_deg: float
    stderr_deg: float
    is_clear: bool
    words: str


def compare_cams(
    book: EngineBook,
    first: Mapping[str, tuple[float, float]],
    second: Mapping[str, tuple[float, float]],
) -> list[CamChange]:
    """Changes of all cams read in both, in book order. Each maps cam to (deviation, standard
    error), crank degrees.

    A change counts as clear beyond three standard errors and a tenth of a degree: tone wheels drop
    out of the difference.
    """
    result: list[CamChange] = []
    for cam in book.cams:
        if cam not in first or cam not in second:
            continue
        (a, ea), (b, eb) = first[cam], second[cam]
        change, error = b - a, (ea**2 + eb**2) ** 0.5
        clear = abs(change) > max(3 * error, 0.1)
        way = "later" if change > 0 else "earlier"
        words = (
            f"{abs(change):.2f}° {way} than before"
            if clear
            else f"no clear change ({change:+.2f}° ± {2 * error:.2f}°)"
        )
        result.append(CamChange(cam, book.shafts[cam].name, a, b, change, error, clear, words))
    return result
