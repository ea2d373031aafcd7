"""One question and one answer with a device on the network."""

import socket
from typing import Any

import numpy as np

from flaneur.core.errors import DeviceError
from flaneur.formats.devices.lines import BOX_PROTOCOL, read_line, read_samples, send_line


class LineClient:
    """One question and one answer in lines of JSON. Every method raises DeviceError when the device
    fails.
    """

    protocol = BOX_PROTOCOL
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
                return answer, read_samples(stream, answer) if with_samples else {}
        except OSError as error:
            raise self._silent(error) from error

    def _silent(self, error: Exception) -> DeviceError:
        return DeviceError(
            f"The {self.what} does not answer.",
            read=f"{self.address[0]}:{self.address[1]}: {error}",
            expected=f"a running {self.what}",
            advice=f"Switch it on, or {self.instead}.",
        )
