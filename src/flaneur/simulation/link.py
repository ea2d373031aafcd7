"""The stand-in vehicle link: what the control unit of a simulated engine logs, stores and learns.

It looks at the same hidden engines as the capture box. Its time runs faster than a clock: a sweep
comes at once.
"""

import zlib
from typing import Any

import numpy as np

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import DeviceError
from flaneur.core.phasers.sweep import Command
from flaneur.formats.devices.lines import LINK_PROTOCOL
from flaneur.formats.logs import write_log
from flaneur.simulation.server import Engines, Server, run
from flaneur.simulation.vehicle import simulate_log, stored_codes

LONGEST_S = 600.0


def answer(engines: Engines, message: dict[str, Any]) -> tuple[dict[str, Any], list[bytes]]:
    """Answer one command. Raises FlaneurError for what cannot be done."""
    do = message.get("do")
    if do == "hello":
        return {"link": "simulated vehicle link", "stand_in": True}, []
    unit, book = str(message.get("unit", "")), engines.book(str(message.get("engine", "")))
    if do == "relearn":
        engines.set(unit, engines.faults(unit).model_copy(update={"base_relearned": True}))
        return {"done": "relearn"}, []
    if do in ("codes", "clear"):
        return _codes(engines, unit, book, is_cleared=do == "clear"), []
    if do == "log":
        seconds, rate = float(message["seconds"]), float(message.get("rate_hz", 15))
        if not (2 <= seconds <= LONGEST_S and 10 <= rate <= 20):
            raise DeviceError(
                "The link cannot log that.",
                read=f"{seconds} s at {rate} Hz",
                expected="2 to 600 s, 10 to 20 Hz",
            )
        commands = [
            Command(float(c["at_s"]), str(c["phaser"]), float(c["deg"]))
            for c in message.get("commands", [])
        ]
        for command in commands:
            phaser = book.phasers.get(command.phaser)
            if phaser is None or not 0 <= command.deg <= phaser.range_deg:
                read = f"{command.phaser} to {command.deg}°"
                raise DeviceError(
                    "The link cannot command that.",
                    read=read,
                    expected="a phaser within its travel",
                )
        state = engines.faults(unit)
        cold = message.get("oil") == "cold"
        rng = np.random.default_rng(zlib.crc32(f"{unit}{cold}{state.model_dump_json()}".encode()))
        log = simulate_log(book, state, commands, seconds, rate, "cold" if cold else "hot", rng)
        return {"link": "simulated vehicle link", "log": write_log(log)}, []
    raise DeviceError(
        "The link does not know this command.",
        read=str(do),
        expected="hello, log, codes, clear or relearn",
    )


def _codes(engines: Engines, unit: str, book: EngineBook, is_cleared: bool) -> dict[str, Any]:
    """What is stored: what was there before stays until it is cleared; what is wrong still comes
    back at once.
    """
    there = {c.number: c.words for c in stored_codes(book, engines.faults(unit))}
    stored = there if is_cleared else {**engines.codes.get(unit, {}), **there}
    engines.codes[unit] = stored
    return {"codes": [{"code": code, "words": words} for code, words in sorted(stored.items())]}


def make_link(address: tuple[str, int], engines: Engines) -> Server:
    return Server(address, engines, LINK_PROTOCOL, answer)


def main(arguments: list[str] | None = None) -> None:
    """Run the link until it is told to stop."""
    run(make_link, "The stand-in vehicle link.", 8423, arguments)


if __name__ == "__main__":
    main()
