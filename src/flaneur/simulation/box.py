"""The stand-in capture box: a small server on loopback that records simulated engines, at once or
as they run.

``repair`` is the stand-in's part only: it tells the simulated engine which parts were renewed and
which teeth were set wrong; a real box has no such command.
"""

import contextlib
import json
import threading
import time
import zlib
from typing import Any

import numpy as np

from flaneur.core.errors import DeviceError
from flaneur.core.faults.model import Faults, after_repair
from flaneur.formats.devices.lines import BOX_PROTOCOL, read_line, send_line
from flaneur.simulation.motion import Conditions
from flaneur.simulation.running import RunningEngine
from flaneur.simulation.server import Engines, Server, run
from flaneur.simulation.synthesis import synthesise

VOLTS_PER_COUNT = 1 / 4096
LONGEST_S, FASTEST_HZ = 30.0, 250_000.0
FRAME_S = 0.2
LONGEST_STREAM_S = 1800.0


def answer(engines: Engines, message: dict[str, Any]) -> tuple[dict[str, Any], list[bytes]]:
    """Answer one command; samples follow as bytes. Raises FlaneurError for what cannot be done."""
    do = message.get("do")
    if do == "hello":
        return {
            "box": "simulated capture box",
            "engines": sorted(engines.books),
            "stand_in": True,
        }, []
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
            raise DeviceError(
                "The box cannot record that.",
                read=f"{seconds} s at {rate} Hz",
                expected="0.1 to 30 s, 5 to 250 kHz",
            )
        commands = {str(k): float(v) for k, v in message.get("phaser_command_deg", {}).items()}
        conditions = Conditions(
            seconds=seconds, rate_hz=rate, rpm=book.signals.idle_rpm, phaser_command_deg=commands
        )
        state = engines.faults(unit)
        seed = zlib.crc32(f"{unit}{state.model_dump_json()}{commands}".encode())
        capture = synthesise(book, state, conditions, np.random.default_rng(seed))
        head = {
            "box": "simulated capture box",
            "rate_hz": rate,
            "samples": capture.samples,
            "channels": list(capture.channels),
            "volts_per_count": VOLTS_PER_COUNT,
        }
        return head, [counts(x) for x in capture.channels.values()]
    raise DeviceError(
        "The box does not know this command.",
        read=str(do),
        expected="hello, capture, stream, hide or repair",
    )


def counts(x: np.ndarray) -> bytes:
    """Volts as the box sends them: little-endian 16-bit counts."""
    return np.clip(np.round(x / VOLTS_PER_COUNT), -32768, 32767).astype("<i2").tobytes()


def stream(engines: Engines, message: dict[str, Any], incoming: Any, outgoing: Any) -> None:
    """Send frames as the engine runs until the connection ends; commands come in on the same
    connection.

    ``pace`` 0 sends as fast as the other side reads (for tests); 1 is as fast as time runs.
    """
    unit, book = str(message.get("unit", "")), engines.book(str(message.get("engine", "")))
    rate, pace = float(message["rate_hz"]), float(message.get("pace", 1.0))
    if not 5_000 <= rate <= FASTEST_HZ:
        raise DeviceError("The box cannot stream that.", read=f"{rate} Hz", expected="5 to 250 kHz")
    engine = RunningEngine(
        book,
        engines.faults(unit),
        rate,
        bool(message.get("cold", False)),
        f"{unit}{time.time_ns() if pace else 0}",
    )
    head = {
        "box": "simulated capture box",
        "rate_hz": rate,
        "channels": [w.channel for w in book.tone_wheels.values()],
    }
    send_line(outgoing, {**head, "volts_per_count": VOLTS_PER_COUNT})
    stop = threading.Event()

    def listen() -> None:
        with contextlib.suppress(DeviceError, OSError, ValueError):
            while not stop.is_set():
                said = read_line(incoming)
                if said.get("do") == "stop":
                    break
                if said.get("do") == "command":
                    phasers = {
                        str(k): float(v) for k, v in said.get("phaser_command_deg", {}).items()
                    }
                    rpm = said.get("rpm")
                    engine.command(
                        float(rpm) if rpm is not None else None,
                        bool(said.get("idle", False)),
                        phasers,
                    )
        stop.set()

    threading.Thread(target=listen, daemon=True).start()
    begun = time.monotonic()
    with contextlib.suppress(OSError):
        number = 0
        while not stop.is_set() and number * FRAME_S < LONGEST_STREAM_S:
            channels = engine.frame(FRAME_S)
            number += 1
            if pace:
                stop.wait(max(0.0, begun + number * FRAME_S / pace - time.monotonic()))
            samples = len(next(iter(channels.values())))
            outgoing.write(json.dumps({"frame": number, "samples": samples}).encode() + b"\n")
            for x in channels.values():
                outgoing.write(counts(x))
            outgoing.flush()
    stop.set()


def make_box(address: tuple[str, int], engines: Engines) -> Server:
    return Server(address, engines, BOX_PROTOCOL, answer, {"stream": stream})


def main(arguments: list[str] | None = None) -> None:
    """Run the box until it is told to stop."""
    run(make_box, "The stand-in capture box.", 8421, arguments)


if __name__ == "__main__":
    main()
