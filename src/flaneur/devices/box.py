"""The capture box, as a client: captures, and frames as the engine runs."""

import contextlib
import socket
from typing import Any

import numpy as np

from flaneur.core.errors import DeviceError
from flaneur.core.signals.capture import Capture
from flaneur.devices.client import LineClient
from flaneur.formats.devices.lines import read_line, read_samples, send_line


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
            return read_samples(
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
        """Close the connection, whatever state it is in."""
        with contextlib.suppress(OSError):
            self.connection.shutdown(socket.SHUT_RDWR)
        self.connection.close()
