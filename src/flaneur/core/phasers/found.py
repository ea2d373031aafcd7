"""What a sweep says of one phaser."""

from dataclasses import dataclass

from flaneur.core.choices import Worded
from flaneur.core.phasers.response import Expected, Floats


class PhaserState(Worded):
    """What a phaser is, as far as its answer to commands tells."""

    SOUND = "sound", "sound"
    SLOW = "slow", "slow"
    STUCK = "stuck", "stuck"
    DRIFTING = "drifting", "drifting"
    HUNTING = "hunting", "hunting"
    NOT_PARKING = "not_parking", "not parking"
    OFF_COMMAND = "off_command", "off its command"
    OFF_BASE = "off_base", "off its base"
    NOT_TOLD = "not_told", "not told"

    @property
    def gravity(self) -> int:
        """How much it matters: 2 speaks against the phaser, 1 against the drive or its base, 0 is
        sound or unknown.
        """
        if self in (PhaserState.SOUND, PhaserState.NOT_TOLD):
            return 0
        return 1 if self is PhaserState.OFF_BASE else 2


@dataclass(frozen=True, kw_only=True)
class Response:
    """Parameters fitted to one phaser's answer; seconds and crank degrees.

    ``curve_deg`` is the model at the log's times; None where a parameter does not show.
    """

    dead_time_s: float
    rate_out_deg_s: float
    rate_back_deg_s: float
    steady_error_deg: float
    hunting_deg: float | None
    hunting_hz: float | None
    drift_deg_s: float | None
    curve_deg: Floats


@dataclass(frozen=True)
class PhaserResponseFit:
    """What a sweep says of one phaser; crank degrees away from park, seconds. None where the sweep
    does not show it.
    """

    phaser: str
    name: str
    state: PhaserState
    state_words: str
    words: str
    dead_time_s: float | None
    rate_out_deg_s: float | None
    rate_back_deg_s: float | None
    steady_error_deg: float | None
    hunting_deg: float | None
    hunting_hz: float | None
    park_deg: float | None
    drift_deg_s: float | None
    rmse_deg: float
    oil_c: float
    oil_kpa: float
    expected: Expected
    times_s: tuple[float, ...]
    command_deg: tuple[float, ...]
    actual_deg: tuple[float, ...]
    fit_deg: tuple[float, ...]
