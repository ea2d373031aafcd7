"""What the stand-in devices share: hidden engines on disk, and a small line server on loopback."""

import argparse
import json
import logging
import re
import signal
import socketserver
import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any

from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import BookError, DeviceError, Fault, FlaneurError
from flaneur.core.faults.model import Faults
from flaneur.formats.devices.lines import read_line, send_line

log = logging.getLogger("flaneur.simulation")


class Engines:
    """Hidden states on disk, one JSON file a unit, and the books they are engines of."""

    def __init__(self, books: Path, state: Path) -> None:
        texts = (p.read_text(encoding="utf-8") for p in sorted(books.glob("*.yaml")))
        self.books = {b.name: b for b in map(parse_book, texts)}
        self.state = state
        self.lock = threading.Lock()
        self.codes: dict[str, dict[str, str]] = {}  # stored by control units, by unit
        state.mkdir(parents=True, exist_ok=True)

    def _file(self, unit: str) -> Path:
        if not re.fullmatch(r"[A-Za-z0-9_-]{1,60}", unit):
            raise DeviceError(
                "This is not a unit's name.", read=unit, expected="letters, digits, - and _"
            )
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

    def book(self, name: str) -> EngineBook:
        if name not in self.books:
            raise BookError(f"The box knows no engine {name}.", [Fault("engine", name)])
        return self.books[name]


Answer = Callable[[Engines, dict[str, Any]], tuple[dict[str, Any], list[bytes]]]
Long = Callable[[Engines, dict[str, Any], Any, Any], None]


class Handler(socketserver.StreamRequestHandler):
    """One connection: a greeting, then commands until the other side closes."""

    def handle(self) -> None:
        server: Server = self.server  # type: ignore[assignment]
        try:
            send_line(self.wfile, {"protocol": server.protocol})
            while True:
                try:
                    message = read_line(self.rfile)
                except DeviceError:
                    return
                try:
                    if message.get("do") in server.long:
                        server.long[str(message["do"])](
                            server.engines, message, self.rfile, self.wfile
                        )
                        return
                    head, raw = server.answer(server.engines, message)
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
    """Answers commands with ``answer``; those in ``long`` take the connection over until it
    ends.
    """

    allow_reuse_address = True
    daemon_threads = True

    def __init__(
        self,
        address: tuple[str, int],
        engines: Engines,
        protocol: str,
        answer: Answer,
        long: dict[str, Long] | None = None,
    ) -> None:
        self.engines, self.protocol, self.answer, self.long = engines, protocol, answer, long or {}
        super().__init__(address, Handler)


def run(
    make: Callable[[tuple[str, int], Engines], Server],
    what: str,
    port: int,
    arguments: list[str] | None,
) -> None:
    """Run a device until it is told to stop."""
    parser = argparse.ArgumentParser(description=what)
    parser.add_argument("--port", type=int, default=port)
    parser.add_argument("--books", type=Path, required=True)
    parser.add_argument("--state", type=Path, required=True)
    options = parser.parse_args(arguments)
    logging.basicConfig(level=logging.INFO)
    try:
        engines = Engines(options.books, options.state)
    except BookError as error:
        raise SystemExit("\n".join([str(error), *error.lines])) from error
    with make(("127.0.0.1", options.port), engines) as server:
        signal.signal(signal.SIGTERM, lambda *_: threading.Thread(target=server.shutdown).start())
        log.info(json.dumps({"listening": server.server_address}))
        server.serve_forever()
