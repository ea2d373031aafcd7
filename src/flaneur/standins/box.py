"""The stand-in capture box: a small server on loopback that records simulated engines.

It keeps the hidden state of each unit's engine in a folder of its own. ``repair`` is the stand-in's part only: it
tells the simulated engine which parts were renewed and which teeth were set wrong; a real box has no such command.
"""

import argparse
import json
import logging
import re
import signal
import socketserver
import threading
import zlib
from pathlib import Path
from typing import Any

import numpy as np

from flaneur.core.errors import BookError, DeviceError, FlaneurError
from flaneur.core.faults.model import Faults, after_repair
from flaneur.core.signals.motion import Conditions
from flaneur.core.signals.synthesis import synthesise
from flaneur.formats.books import load_book
from flaneur.standins.protocol import PROTOCOL, read_line, send_line

VOLTS_PER_COUNT = 1 / 4096
LONGEST_S, FASTEST_HZ = 30.0, 250_000.0
log = logging.getLogger("flaneur.box")


class Engines:
    """Hidden states on disk, one JSON file a unit, and the books they are engines of."""

    def __init__(self, books: Path, state: Path) -> None:
        self.books = {b.name: b for b in (load_book(p) for p in sorted(books.glob("*.yaml")))}
        self.state = state
        self.lock = threading.Lock()
        state.mkdir(parents=True, exist_ok=True)

    def _file(self, unit: str) -> Path:
        if not re.fullmatch(r"[A-Za-z0-9_-]{1,60}", unit):
            raise DeviceError("This is not a unit's name.", read=unit, expected="letters, digits, - and _")
        return self.state / f"{unit}.json"

    def faults(self, unit: str) -> Faults:
        """Hidden state of a unit; an engine never heard of is sound."""
        file = self._file(unit)
        return Faults.model_validate_json(file.read_text()) if file.exists() else Faults()

    def set(self, unit: str, faults: Faults) -> None:
        with self.lock:
            temporary = self._file(unit).with_suffix(".tmp")
            temporary.write_text(faults.model_dump_json())
            temporary.replace(self._file(unit))

    def book(self, name: str) -> Any:
        if name not in self.books:
            raise BookError(f"The box knows no engine {name}.", [f"engine: {name}"])
        return self.books[name]


def answer(engines: Engines, message: dict[str, Any]) -> tuple[dict[str, Any], list[bytes]]:
    """Answer one command; samples follow as bytes. Raises FlaneurError for what cannot be done."""
    do = message.get("do")
    if do == "hello":
        return {"box": "stand-in capture box", "engines": sorted(engines.books), "stand_in": True}, []
    unit, book = str(message.get("unit", "")), engines.book(str(message.get("engine", "")))
    if do == "hide":
        faults = Faults.model_validate(message["faults"])
        faults.check_against(book)
        engines.set(unit, faults)
        return {"done": "hide"}, []
    if do == "repair":
        errors = {str(k): int(v) for k, v in message.get("tooth_errors", {}).items()}
        renewed, came_off = list(message.get("renewed", [])), list(message.get("came_off", []))
        engines.set(unit, after_repair(engines.faults(unit), book, renewed, came_off, errors))
        return {"done": "repair"}, []
    if do == "capture":
        seconds, rate = float(message["seconds"]), float(message["rate_hz"])
        if not (0.1 <= seconds <= LONGEST_S and 5_000 <= rate <= FASTEST_HZ):
            raise DeviceError("The box cannot record that.", read=f"{seconds} s at {rate} Hz", expected="0.1 to 30 s, 5 to 250 kHz")
        commands = {str(k): float(v) for k, v in message.get("phaser_command_deg", {}).items()}
        conditions = Conditions(seconds=seconds, rate_hz=rate, rpm=book.signals.idle_rpm, phaser_command_deg=commands)
        state = engines.faults(unit)
        seed = zlib.crc32(f"{unit}{state.model_dump_json()}{commands}".encode())
        capture = synthesise(book, state, conditions, np.random.default_rng(seed))
        raw = [np.clip(np.round(x / VOLTS_PER_COUNT), -32768, 32767).astype("<i2").tobytes() for x in capture.channels.values()]
        head = {
            "box": "stand-in capture box",
            "rate_hz": rate,
            "samples": capture.samples,
            "channels": list(capture.channels),
            "volts_per_count": VOLTS_PER_COUNT,
        }
        return head, raw
    raise DeviceError("The box does not know this command.", read=str(do), expected="hello, capture, hide or repair")


class Handler(socketserver.StreamRequestHandler):
    """One connection: a greeting, then commands until the other side closes."""

    def handle(self) -> None:
        engines: Engines = self.server.engines  # type: ignore[attr-defined]
        try:
            send_line(self.wfile, {"protocol": PROTOCOL})
            while True:
                try:
                    message = read_line(self.rfile)
                except DeviceError:
                    return
                try:
                    head, raw = answer(engines, message)
                except FlaneurError as error:
                    send_line(self.wfile, {"error": str(error)})
                    continue
                except (KeyError, ValueError, TypeError) as error:
                    send_line(self.wfile, {"error": f"The command is not complete: {error!r}"})
                    continue
                send_line(self.wfile, head)
                for block in raw:
                    self.wfile.write(block)
                self.wfile.flush()
        except (BrokenPipeError, ConnectionResetError):
            log.info("a connection was closed in the middle")


class Server(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True

    def __init__(self, address: tuple[str, int], engines: Engines) -> None:
        self.engines = engines
        super().__init__(address, Handler)


def main(arguments: list[str] | None = None) -> None:
    """Run the box until it is told to stop."""
    parser = argparse.ArgumentParser(description="The stand-in capture box.")
    parser.add_argument("--port", type=int, default=8421)
    parser.add_argument("--books", type=Path, required=True)
    parser.add_argument("--state", type=Path, required=True)
    options = parser.parse_args(arguments)
    logging.basicConfig(level=logging.INFO)
    try:
        engines = Engines(options.books, options.state)
    except BookError as error:
        raise SystemExit("\n".join([str(error), *error.faults])) from error
    with Server(("127.0.0.1", options.port), engines) as server:
        signal.signal(signal.SIGTERM, lambda *_: threading.Thread(target=server.shutdown).start())
        log.info(json.dumps({"listening": server.server_address}))
        server.serve_forever()


if __name__ == "__main__":
    main()
