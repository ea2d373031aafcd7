"""What a capture reads now, against what was read from it before."""

from collections.abc import Mapping

from pydantic import BaseModel, ConfigDict

from flaneur.core.signals.correlation import Correlation

ALIKE_DEG = 0.005  # figures are kept to hundredths


class ReadAgain(BaseModel):
    """A capture read: how late each cam is (crank degrees, late positive) with its standard error,
    or why it cannot be read. ``mark``: of all it follows from: samples, book, stretches left out,
    decoder.
    """

    model_config = ConfigDict(frozen=True)

    capture: str
    engine: str
    mark: str
    late_deg: dict[str, float] = {}
    stderr_deg: dict[str, float] = {}
    refused: str = ""


class Difference(BaseModel):
    """A cam that reads otherwise now; None where it was not, or is not, read."""

    model_config = ConfigDict(frozen=True)

    engine: str
    capture: str
    cam: str
    before_deg: float | None
    now_deg: float | None
    stderr_deg: float | None


def read_of(found: Correlation, capture: str, engine: str, mark: str) -> ReadAgain:
    """What was read, in short."""
    return ReadAgain(
        capture=capture,
        engine=engine,
        mark=mark,
        late_deg={c.cam: c.deviation_deg for c in found.cams},
        stderr_deg={c.cam: c.stderr_deg for c in found.cams},
    )


def differences(before_deg: Mapping[str, float], now: ReadAgain) -> list[Difference]:
    """Every cam that reads otherwise than before, in the order of what is read now."""
    cams = list(dict.fromkeys([*now.late_deg, *before_deg]))
    return [
        Difference(
            engine=now.engine,
            capture=now.capture,
            cam=cam,
            before_deg=then,
            now_deg=here,
            stderr_deg=now.stderr_deg.get(cam),
        )
        for cam in cams
        if (then := before_deg.get(cam)) != (here := now.late_deg.get(cam))
        and (then is None or here is None or abs(then - here) > ALIKE_DEG)
    ]
