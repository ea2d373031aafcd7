"""Live looks at the box: one a job, each its owner's, with what was recorded kept whatever ends
it.
"""

import threading
from collections import defaultdict

from sqlalchemy import Engine

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import CaptureError, ErrorCode, FlaneurError
from flaneur.core.measuring.kinds import Phase
from flaneur.core.people import Person
from flaneur.devices.box import BoxClient
from flaneur.devices.live import LiveSession, LiveStatus, Owner
from flaneur.jobs.capturing import BOX_RATE_HZ, engine_to_start, keep, tell_the_stand_in
from flaneur.jobs.work import changing, looking

SHORTEST_S = 1.0
SPEEDS_RPM = (1200, 2000, 3000)
PHASER_STEP_DEG = 20.0


class NotConnected(FlaneurError):
    """No live look is under way."""

    code = ErrorCode.BOX_OFF


class AtTheBox(FlaneurError):
    """Somebody else is at the box: it is taken over only by asking for that."""

    code = ErrorCode.BOX_TAKEN


class LiveLooks:
    """The live looks of this process, by job."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine
        self._lock = threading.Lock()
        self._looks: dict[int, LiveSession] = {}
        self._turns: defaultdict[int, threading.Lock] = defaultdict(threading.Lock)

    def of(self, job_id: int) -> LiveSession | None:
        """The live look of a job, whoever's it is."""
        with self._lock:
            return self._looks.get(job_id)

    def all(self) -> list[LiveSession]:
        """Every live look of this process."""
        with self._lock:
            return list(self._looks.values())

    def mine(self, job_id: int, person: Person) -> LiveSession:
        """The live look of a job, for who started it. Raises NotConnected, or AtTheBox for anybody
        else.
        """
        found = self.of(job_id)
        if found is None:
            raise NotConnected("The box is not connected.", advice="Connect it first.")
        if found.owner.person != person:
            raise _somebody_else(found)
        return found

    def connect(
        self, job_id: int, box: BoxClient, owner: Owner, *, cold: bool, take_over: bool
    ) -> LiveSession:
        """Connect the box to a job's engine and start it; what was recorded before is kept first.
        Who asks for the same job meanwhile waits, and then finds it taken.

        Raises AtTheBox, DeviceError, BookError for an engine that cannot be captured, and
        ReleaseError for one that must not be started yet.
        """
        with self._lock:
            turn = self._turns[job_id]
        with turn:
            with changing(self.engine, job_id, None, owner.person) as work:
                book, unit = work.book, engine_to_start(work)
            old = self.of(job_id)
            _check_free(old, owner, take_over)
            if owner.phase == Phase.AFTER:
                with looking(self.engine, job_id, owner.person) as work:
                    tell_the_stand_in(work, box)
            if old is not None:
                self.let_go(job_id, old)
            new = LiveSession(
                box, book, unit, BOX_RATE_HZ, cold, owner, lambda live: self._keep(job_id, live)
            )
            with self._lock:
                self._looks[job_id] = new
            return new

    def let_go(self, job_id: int, live: LiveSession) -> None:
        """Let go of the box. A record under way is kept first."""
        with self._lock:
            if self._looks.get(job_id) is live:
                del self._looks[job_id]
        self._keep(job_id, live)
        live.stop()

    def _keep(self, job_id: int, live: LiveSession) -> None:
        """A record under way that the box or a person breaks off is kept as far as it came, in the
        name of who made it.
        """
        if live.recording_s is None or live.recording_s < SHORTEST_S:
            return
        try:
            capture = live.recorded()
            with changing(self.engine, job_id, None, live.owner.person) as work:
                keep(work, capture, live.owner.phase, {})
            live.end_record()
        except FlaneurError as error:
            live.unkept(error)


def _check_free(old: LiveSession | None, owner: Owner, take_over: bool) -> None:
    """Raise AtTheBox while somebody else is at it and nobody asked to take it over."""
    if old is None or old.owner.person == owner.person or take_over:
        return
    if old.shown.state in (LiveStatus.LIVE, LiveStatus.CONNECTING):
        raise _somebody_else(old)


def _somebody_else(live: LiveSession) -> AtTheBox:
    recording = f", recording for {live.recording_s:.0f} s" if live.recording_s is not None else ""
    return AtTheBox(
        f"{live.owner.name} is at the box.",
        read=f"started {live.seconds:.0f} s ago{recording}",
        expected="whoever started it, or somebody who takes it over",
        advice=f"Ask {live.owner.name}. Taking it over keeps what is being recorded.",
    )


def command(live: LiveSession, rpm: float | None, idle: bool, phasers: dict[str, float]) -> None:
    """Hold a speed, let it fall, or command phasers (crank degrees away from park). Raises
    CaptureError for a phaser outside its travel.
    """
    for key, deg in phasers.items():
        phaser = live.book.phasers.get(key)
        if phaser is None or deg > phaser.range_deg:
            raise CaptureError(
                "This phaser cannot go there.",
                read=f"{key} to {deg:g}°",
                expected="a phaser of the book within its travel",
            )
    live.command(rpm, idle, phasers)


def phaser_steps_deg(book: EngineBook, key: str) -> list[float]:
    """Angles a phaser may be sent to from the live page: park, and steps within its travel."""
    steps = (PHASER_STEP_DEG * n for n in range(4))
    return [deg for deg in steps if deg <= book.phasers[key].range_deg]
