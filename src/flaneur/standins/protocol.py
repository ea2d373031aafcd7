"""The capture box's protocol: JSON lines over TCP, samples as binary after their line (docs/formats/capture-box.md)."""

import json
import socket
from typing import Any

import numpy as np

from flaneur.core.errors import DeviceError
from flaneur.core.signals.capture import Capture

PROTOCOL = "flaneur-box/1"
LONGEST_LINE = 1 << 20


def send_line(stream: Any, message: dict[str, Any]) -> None:
    stream.write(json.dumps(message).encode() + b"\n")
    stream.flush()


def read_line(stream: Any) -> dict[str, Any]:
    """One message. Raises DeviceError when the line breaks off or is not JSON."""
    line = stream.readline(LONGEST_LINE)
    if not line.endswith(b"\n"):
        raise DeviceError("The capture box broke off.", read=f"{len(line)} bytes of a line", advice="Check it and try again.")
    try:
        message = json.loads(line)
    except ValueError as error:
        raise DeviceError("The capture box speaks another language.", read=repr(line[:60]), expected=PROTOCOL) from error
    if not isinstance(message, dict):
        raise DeviceError("The capture box speaks another language.", read=repr(line[:60]), expected=PROTOCOL)
    return message


class BoxClient:
    """A connection to a capture box. Every method raises DeviceError when the box fails."""

    def __init__(self, host: str, port: int, timeout_s: float = 60.0) -> None:
        self.address = (host, port)
        self.timeout_s = timeout_s

    def ask(self, message: dict[str, Any]) -> dict[str, Any]:
        """Send one command and read its answer."""
        answer, _ = self._talk(message, with_samples=False)
        return answer

    def capture(self, engine: str, unit: str, seconds: float, rate_hz: float, phaser_command_deg: dict[str, float]) -> Capture:
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
        return Capture(float(answer["rate_hz"]), channels, source=str(answer.get("box", "capture box")))

    def _talk(self, message: dict[str, Any], with_samples: bool) -> tuple[dict[str, Any], dict[str, np.ndarray]]:
        try:
            with socket.create_connection(self.address, timeout=self.timeout_s) as connection, connection.makefile("rwb") as stream:
                hello = read_line(stream)
                if hello.get("protocol") != PROTOCOL:
                    raise DeviceError("This is not a capture box.", read=str(hello), expected=PROTOCOL)
                send_line(stream, message)
                answer = read_line(stream)
                if "error" in answer:
                    raise DeviceError(str(answer["error"]), advice="Check the box and the engine chosen.")
                return answer, _samples(stream, answer) if with_samples else {}
        except (OSError, TimeoutError) as error:
            raise DeviceError(
                "The capture box does not answer.",
                read=f"{self.address[0]}:{self.address[1]}: {error}",
                expected="a running box",
                advice="Switch it on, or drop in a CSV capture instead.",
            ) from error


def _samples(stream: Any, answer: dict[str, Any]) -> dict[str, np.ndarray]:
    """Channels as float32 volts from 16-bit samples: volts = count × ``volts_per_count``."""
    channels: dict[str, np.ndarray] = {}
    for name in answer["channels"]:
        size = int(answer["samples"]) * 2
        raw = stream.read(size)
        if len(raw) < size:
            raise DeviceError(
                "The capture box was lost in the middle.", read=f"{len(raw)} of {size} bytes of {name}", advice="Capture again."
            )
        channels[name] = np.frombuffer(raw, dtype="<i2").astype(np.float32) * np.float32(answer["volts_per_count"])
    return channels
