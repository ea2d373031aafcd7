"""The devices' protocol: JSON lines over TCP, samples as binary after their line
(docs/formats/capture-box.md).
"""

import contextlib
import json
import socket
from typing import Any

import numpy as np

from flaneur.core.errors import DeviceError
from flaneur.core.signals.capture import Capture

PROTOCOL = "flaneur-box/1"
LONGEST_LINE = 16 << 20


def send_line(stream: Any, message: dict[str, Any]) -> None:
    stream.write(json.dumps(message).encode() + b"\n")
    stream.flush()


def read_line(stream: Any, what: str = "capture box", expected: str = PROTOCOL) -> dict[str, Any]:
    """One message. Raises DeviceError when the line breaks off or is not JSON."""
    line = stream.readline(LONGEST_LINE)
    if not line.endswith(b"\n"):
        raise DeviceError(
            f"The {what} broke off.",
            read=f"{len(line)} bytes of a line",
            advice="Check it and try again.",
        )
    try:
        message = json.loads(line)
    except ValueError as error:
        raise DeviceError(
            f"The {what} speaks another language.", read=repr(line[:60]), expected=expected
        ) from error
    if not isinstance(message, dict):
        raise DeviceError(
            f"The {what} speaks another language.", read=repr(line[:60]), expected=expected
        )
    return message


class LineClient:
    """One question and one answer in lines of JSON. Every method raises DeviceError when the device
    fails.
    """

    protocol = PROTOCOL
    what = "capture box"
    instead = "drop in a capture instead"

    def __init__(self, host: str, port: int, timeout_s: float = 60.0) -> None:
        self.address = (host, port)
        self.timeout_s = timeout_s

    def ask(self, message: dict[str, Any]) -> dict[str, Any]:
        """Send one command and read its answer."""
        answer, _ = self._talk(message, with_samples=False)
        return answer

    def _open(self, message: dict[str, Any]) -> tuple[socket.socket, Any, dict[str, Any]]:
        """Connect, greet, send a command and read its first line."""
        connection = socket.create_connection(self.address, timeout=self.timeout_s)
        try:
            stream = connection.makefile("rwb")
            hello = read_line(stream, self.what, self.protocol)
            if hello.get("protocol") != self.protocol:
                raise DeviceError(
                    f"This is not a {self.what}.", read=str(hello), expected=self.protocol
                )
            send_line(stream, message)
            answer = read_line(stream, self.what, self.protocol)
            if "error" in answer:
                raise DeviceError(
                    str(answer["error"]), advice="Check the device and the engine chosen."
                )
        except BaseException:
            connection.close()
            raise
        return connection, stream, answer

    def _talk(
        self, message: dict[str, Any], with_samples: bool
    ) -> tuple[dict[str, Any], dict[str, np.ndarray]]:
        try:
            connection, stream, answer = self._open(message)
            with connection, stream:
                return answer, _samples(stream, answer) if with_samples else {}
        except OSError as error:
            raise self._silent(error) from error

    def _silent(self, error: Exception) -> DeviceError:
        return DeviceError(
            f"The {self.what} does not answer.",
            read=f"{self.address[0]}:{self.address[1]}: {error}",
            expected=f"a running {self.what}",
            advice=f"Switch it on, or {self.instead}.",
        )


class LinkClient(LineClient):
    """A connection to a vehicle link."""

    protocol = "flaneur-link/1"
    what = "vehicle link"
    instead = "drop in a CSV log instead"


class BoxClient(LineClient):
    """A connection to a capture box."""

    def capture(
        self,
        engine: str,
        unit: str,
        seconds: float,
        rate_hz: float,
        phaser_command_deg: dict[str, float],
    ) -> Capture:
        """Record ``seconds`` at ``rate_hz`` from the sensors of ``unit``."""
        message = {
            "do": "capture",
            "engine": engine,
            "unit": unit,
            "seconds": seconds,
            "rate_hz": rate_hz,
            "phaser_command_deg": phaser_command_deg,
        }
        answer, channels = self._talk(message, with_samples=True)
        return Capture(
            float(answer["rate_hz"]), channels, source=str(answer.get("box", "capture box"))
        )

    def stream(
        self, engine: str, unit: str, rate_hz: float, cold: bool, pace: float = 1.0
    ) -> "BoxStream":
        """Frames as the engine runs. Close what comes back."""
        message = {
            "do": "stream",
            "engine": engine,
            "unit": unit,
            "rate_hz": rate_hz,
            "cold": cold,
            "pace": pace,
        }
        try:
            connection, stream, head = self._open(message)
        except OSError as error:
            raise self._silent(error) from error
        return BoxStream(
            connection,
            stream,
            [str(c) for c in head["channels"]],
            float(head["rate_hz"]),
            float(head["volts_per_count"]),
        )


class BoxStream:
    """An open stream of frames; commands go out on the same connection."""

    def __init__(
        self,
        connection: socket.socket,
        stream: Any,
        channels: list[str],
        rate_hz: float,
        volts_per_count: float,
    ) -> None:
        self.connection, self.stream = connection, stream
        self.channels, self.rate_hz, self.volts_per_count = channels, rate_hz, volts_per_count

    def frame(self) -> dict[str, np.ndarray]:
        """The next frame, volts as float32. Raises DeviceError when the box is lost."""
        try:
            head = read_line(self.stream)
            return _samples(
                self.stream,
                {
                    "channels": self.channels,
                    "samples": head["samples"],
                    "volts_per_count": self.volts_per_count,
                },
            )
        except (OSError, ValueError, KeyError) as error:
            read = str(error)[:120]
            raise DeviceError(
                "The capture box was lost in the middle.",
                read=read,
                advice="What came is kept. Check the box.",
            ) from error

    def command(self, message: dict[str, Any]) -> None:
        """Send a command: rpm, idle, or phaser_command_deg. Raises DeviceError when the box is
        lost.
        """
        try:
            send_line(self.stream, {"do": "command", **message})
        except (OSError, ValueError) as error:
            raise DeviceError(
                "The capture box was lost in the middle.",
                read=str(error)[:120],
                advice="What came is kept.",
            ) from error

    def close(self) -> None:
        with contextlib.suppress(OSError):
            self.connection.shutdown(socket.SHUT_RDWR)
        self.connection.close()


def _samples(stream: Any, answer: dict[str, Any]) -> dict[str, np.ndarray]:
    """Channels as float32 volts from 16-bit samples: volts = count × ``volts_per_count``."""
    channels: dict[str, np.ndarray] = {}
    for name in answer["channels"]:
        size = int(answer["samples"]) * 2
        raw = stream.read(size)
        if len(raw) < size:
            raise DeviceError(
                "The capture box was lost in the middle.",
                read=f"{len(raw)} of {size} bytes of {name}",
                advice="Capture again.",
            )
        channels[name] = np.frombuffer(raw, dtype="<i2").astype(np.float32) * np.float32(
            answer["volts_per_count"]
        )
    return channels
