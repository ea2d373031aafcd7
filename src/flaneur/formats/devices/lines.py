"""The devices' protocol: JSON lines over TCP, samples as binary after their line
(docs/formats/capture-box.md).
"""

import json
from typing import Any

import numpy as np

from flaneur.core.errors import DeviceError

BOX_PROTOCOL = "flaneur-box/1"
LINK_PROTOCOL = "flaneur-link/1"
WRENCH_PROTOCOL = "flaneur-wrench/1"
LONGEST_LINE = 16 << 20


def send_line(stream: Any, message: dict[str, Any]) -> None:
    """Send one message as a line of JSON."""
    stream.write(json.dumps(message).encode() + b"\n")
    stream.flush()


def read_line(
    stream: Any, what: str = "capture box", expected: str = BOX_PROTOCOL
) -> dict[str, Any]:
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


def read_samples(stream: Any, answer: dict[str, Any]) -> dict[str, np.ndarray]:
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
