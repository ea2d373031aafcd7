"""What crosses the network here: one model a message."""

from flaneur.api.models import Out
from flaneur.core.clearance.off import ValvesOff
from flaneur.core.drive.off import OneToothOff
from flaneur.core.picture.shapes import DrivePicture


class OffFace(Out):
    """One tooth off: the picture, what shows, and what each valve row has left."""

    picture: DrivePicture
    off: OneToothOff
    valves: ValvesOff
