"""Cam lobes of the first cylinder and the one opposite in the firing order, for the drive face."""

import math

import numpy as np
from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.motion import lift_mm
from flaneur.core.clearance.teeth import cam_sprocket
from flaneur.core.drive.train import DriveTrain, clock_per_crank
from flaneur.core.wording import clock_words

BASE_MM = 15.0


class Lobe(BaseModel):
    """A lobe as a closed outline (mm, nose upwards) about its cam; ``nose_clock_deg`` where the
    nose points in service.

    The outline is the base circle plus the lift: what the cam does, not its exact grind.
    """

    model_config = ConfigDict(frozen=True)

    cam: str
    wheel: str
    kind: str
    cylinder: int
    is_first: bool
    outline: list[list[float]]
    nose_clock_deg: float
    clock_per_crank: float
    words: str


def lobes(book: EngineBook) -> list[Lobe]:
    """Lobes to draw; none where the book has no valve data. The nose meets its follower at full
    lift.
    """
    engine = book.clearance
    if engine is None:
        return []
    train = DriveTrain(book)
    opposite = next(
        (
            c
            for c, v in engine.fires_deg.items()
            if math.isclose((v - engine.fires_deg[1]) % 720, 360)
        ),
        None,
    )
    result: list[Lobe] = []
    for group in engine.valves.values():
        wheel = cam_sprocket(book, group.cam)
        if wheel is None:
            continue
        rate = clock_per_crank(train, group.cam, book.sprockets[wheel].plane)
        angles = np.arange(0.0, 360.0, 6.0)
        radius = BASE_MM + lift_mm(group, 2 * ((angles + 180) % 360 - 180))
        outline = [
            [
                round(float(r * math.sin(math.radians(a))), 3),
                round(float(r * math.cos(math.radians(a))), 3),
            ]
            for a, r in zip(angles, radius, strict=True)
        ]
        for cylinder in (1, opposite):
            if cylinder is None or cylinder not in group.cylinders:
                continue
            to_full = (
                book.service_position.crank_deg - engine.fires_deg[cylinder] - group.centreline_deg
            )
            nose = (group.follower_clock_deg + rate * to_full) % 360
            result.append(
                Lobe(
                    cam=group.cam,
                    wheel=wheel,
                    kind=group.kind,
                    cylinder=cylinder,
                    is_first=cylinder == 1,
                    outline=outline,
                    nose_clock_deg=round(nose, 3),
                    clock_per_crank=rate,
                    words=f"{group.kind} lobe of cylinder {cylinder} points to {clock_words(nose)}",
                )
            )
    return result
