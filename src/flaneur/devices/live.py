"""A live look at the box: one thread per job reads frames and holds the last minute, another
decodes the last seconds of it, so that no frame waits while numbers are worked out.
"""

import logging
import threading
import time
import uuid
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass, field
from enum import StrEnum

import numpy as np

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import CaptureError, DeviceError, FlaneurError
from flaneur.core.people import Person
from flaneur.core.signals.camreading import CamCorrelation
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import correlate
from flaneur.devices.box import BoxClient, BoxStream

log = logging.getLogger("flaneur.live")
HELD_S = 60.0
LOOK_S = 2.5
LOOK_EVERY_S = 0.45
FIRST_LOOK_S = 0.8
UNWATCHED_S = 30.0
HISTORY = 400


class LiveStatus(StrEnum):
    """Where a live look stands."""

    OFF = "off"
    CONNECTING = "connecting"
    LIVE = "live"
    LOST = "lost"


@dataclass
class LiveState:
    """What the page shows. ``history`` per cam: seconds since the start and degrees late."""

    state: LiveStatus = LiveStatus.CONNECTING
    trouble: FlaneurError | None = None
    rpm: float | None = None
    quality: list[str] = field(default_factory=list)
    cams: tuple[CamCorrelation, ...] = ()
    history: dict[str, deque[tuple[float, float]]] = field(default_factory=dict)


@dataclass(frozen=True)
class Owner:
    """Who started a live look, and of which phase what they record is."""

    person: Person
    phase: str

    @property
    def name(self) -> str:
        """Their name."""
        return self.person.name


class LiveSession:
    """From connecting to the last frame. Frames held outlive the box: what came can still be
    kept.
    """

    def __init__(
        self,
        box: BoxClient,
        book: EngineBook,
        unit: str,
        rate_hz: float,
        cold: bool,
        owner: Owner,
        on_lost: Callable[["LiveSession"], None],
    ) -> None:
        self.book, self.rate_hz, self.owner, self.on_lost = book, rate_hz, owner, on_lost
        self.shown, self.key = LiveState(), uuid.uuid4().hex
        self.frames: deque[dict[str, np.ndarray]] = deque()
        self.samples_seen = self.samples_held = 0
        self.record_from: int | None = None
        self.commands: dict[str, float] = {}
        self.lock = threading.Lock()
        self.stopping = threading.Event()
        self.watched_at = time.monotonic()
        self.stream: BoxStream = box.stream(book.name, unit, rate_hz, cold)
        self.threads = [
            threading.Thread(target=work, daemon=True) for work in (self._run, self._look_on)
        ]
        for thread in self.threads:
            thread.start()

    @property
    def seconds(self) -> float:
        """Seconds seen since the start."""
        return self.samples_seen / self.rate_hz

    @property
    def held_s(self) -> float:
        """Seconds still in hand."""
        return self.samples_held / self.rate_hz

    @property
    def recording_s(self) -> float | None:
        """Seconds recorded so far; None while nothing is."""
        return (
            None
            if self.record_from is None
            else (self.samples_seen - self.record_from) / self.rate_hz
        )

    def _run(self) -> None:
        self.shown.state = LiveStatus.LIVE
        try:
            while not self.stopping.is_set():
                frame = self.stream.frame()
                with self.lock:
                    self._hold(frame)
                if time.monotonic() - self.watched_at > UNWATCHED_S and self.record_from is None:
                    break
            self.shown.state = LiveStatus.OFF
        except DeviceError as error:
            if self.stopping.is_set():
                self.shown.state = LiveStatus.OFF
                return
            self.shown.state, self.shown.trouble = LiveStatus.LOST, error
            self.on_lost(self)
        except Exception:  # a thread has nobody above it: what came must stay to be kept
            log.exception("the live look broke")
            self.shown.state = LiveStatus.LOST
            self.shown.trouble = DeviceError(
                "Flaneur could not go on reading the box.", advice="What came is still here."
            )
        finally:
            self.stopping.set()
            self.stream.close()

    def _look_on(self) -> None:
        """Look again and again until the reading ends; a look that takes long makes room for the
        next frames and for others who look.
        """
        seen, wait = 0, LOOK_EVERY_S
        while not self.stopping.wait(wait):
            wait = LOOK_EVERY_S
            if self.seconds <= FIRST_LOOK_S or self.samples_seen == seen:
                continue
            seen, begun = self.samples_seen, time.monotonic()
            try:
                self._look()
            except Exception:  # a thread has nobody above it; what came is still held
                log.exception("a live look broke")
                self.shown.quality = ["Flaneur could not read the last seconds."]
            took = time.monotonic() - begun
            wait = max(LOOK_EVERY_S - took, took / 4)

    def _hold(self, frame: dict[str, np.ndarray]) -> None:
        count = len(next(iter(frame.values())))
        self.frames.append(frame)
        self.samples_seen += count
        self.samples_held += count
        while self.samples_held > HELD_S * self.rate_hz:
            self.samples_held -= len(next(iter(self.frames.popleft().values())))

    def _look(self) -> None:
        try:
            found = correlate(self.last(LOOK_S), self.book)
        except CaptureError as error:
            self.shown.quality = [str(error)]
            return
        self.shown.rpm, self.shown.quality, self.shown.cams = (
            found.rpm,
            list(found.quality),
            found.cams,
        )
        for cam in found.cams:
            line = self.shown.history.setdefault(cam.cam, deque(maxlen=HISTORY))
            line.append((round(self.seconds, 2), round(float(np.mean(cam.per_cycle_deg[-4:])), 3)))

    def last(self, seconds: float) -> Capture:
        """The last seconds held, or as much as there is. Raises CaptureError when nothing came
        yet.
        """
        with self.lock:
            wanted, pieces = round(seconds * self.rate_hz), list[dict[str, np.ndarray]]()
            for frame in reversed(self.frames):
                pieces.append(frame)
                wanted -= len(next(iter(frame.values())))
                if wanted <= 0:
                    break
        if not pieces:
            raise CaptureError("Nothing has come from the box yet.", advice="Wait a moment.")
        channels = {
            n: np.concatenate([p[n] for p in reversed(pieces)]) for n in self.stream.channels
        }
        return Capture(self.rate_hz, channels, source="capture box, live")

    def command(self, rpm: float | None, idle: bool, phasers: dict[str, float]) -> None:
        """Pass a command on to the engine."""
        self.commands |= phasers
        self.stream.command({"rpm": rpm, "idle": idle, "phaser_command_deg": phasers})

    def record(self) -> None:
        """Record from now on."""
        self.record_from = self.samples_seen

    def recorded(self) -> Capture:
        """What was recorded since ``record``, at most the minute held. The record goes on until
        ``end_record``.
        """
        seconds = self.recording_s
        if seconds is None:
            raise CaptureError(
                "Nothing is being recorded.", advice="Press record first, or keep the last seconds."
            )
        return self.last(min(seconds, HELD_S))

    def end_record(self) -> None:
        """Record no longer."""
        self.record_from = None

    def unkept(self, error: FlaneurError) -> None:
        """Say that what was recorded could not be kept, beside what went wrong before."""
        before = f"{self.shown.trouble.message} " if self.shown.trouble else ""
        self.shown.trouble = DeviceError(
            f"{before}What came could not be kept: {error.message}",
            read=error.read,
            expected=error.expected,
            advice=error.advice,
        )

    def stop(self) -> None:
        """End the look and close the connection."""
        self.stopping.set()
        self.stream.close()
        for thread in self.threads:
            thread.join(3)
