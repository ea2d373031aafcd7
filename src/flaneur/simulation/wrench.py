"""The stand-in torque–angle wrench: a bolt tightened while it streams what it measures
(docs/formats/torque-wrench.md).
"""

import json
import time
import zlib
from typing import Any

import numpy as np
from pydantic import TypeAdapter, ValidationError

from flaneur.core.book.tasks import Stage
from flaneur.core.errors import DeviceError
from flaneur.core.fasteners.judging import BoltFault
from flaneur.formats.devices.lines import WRENCH_PROTOCOL, send_line
from flaneur.simulation.server import Engines, Server, run
from flaneur.simulation.tightening import Hand, Joint, tighten

LEAST_NM, MOST_NM, RATE_HZ = 4.0, 200.0, 200.0
EVERY_S = 0.1
_STAGES = TypeAdapter(list[Stage])


def answer(engines: Engines, message: dict[str, Any]) -> tuple[dict[str, Any], list[bytes]]:
    """Answer one command. Raises DeviceError for what cannot be done."""
    do = message.get("do")
    if do == "hello":
        return {
            "wrench": "simulated torque–angle wrench",
            "least_nm": LEAST_NM,
            "most_nm": MOST_NM,
            "rate_hz": RATE_HZ,
            "stand_in": True,
        }, []
    if do == "next":
        named = message.get("fault")
        fault = BoltFault(named).value if named else None
        _next(engines).write_text(json.dumps({"fault": fault, "size": message.get("size", 1.3)}))
        return {"next": fault}, []
    raise DeviceError(
        "The wrench does not know this command.", read=str(do), expected="hello, next or tighten"
    )


def _next(engines: Engines) -> Any:
    return engines.state / "wrench.json"


def _take_next(engines: Engines) -> tuple[BoltFault | None, float]:
    """What is to be wrong with the bolt that comes next; only with that one."""
    with engines.lock:
        file = _next(engines)
        if not file.exists():
            return None, 1.0
        said = json.loads(file.read_text())
        file.unlink()
    return (BoltFault(said["fault"]) if said["fault"] else None), float(said["size"])


def stream(engines: Engines, message: dict[str, Any], _: Any, out: Any) -> None:
    """Tighten one bolt by its stages, and send what is measured as it comes. ``pace`` times as fast
    as a hand. Raises DeviceError for a program outside of what it can measure.
    """
    try:
        stages = _STAGES.validate_python(message["stages"])
    except ValidationError as error:
        raise DeviceError(
            "The wrench cannot read the stages.",
            read=str(error.errors()[0]["msg"]),
            expected='[{"kind": "torque", "value": 24, "tolerance": 2}]',
        ) from error
    torques = [s.value for s in stages if s.kind == "torque"]
    if not torques or not LEAST_NM <= torques[-1] <= MOST_NM:
        raise DeviceError(
            "The wrench cannot measure that.",
            read=f"{torques[-1] if torques else 0:g} Nm",
            expected=f"{LEAST_NM:g} to {MOST_NM:g} Nm",
            advice="Take another wrench and write what it showed.",
        )
    pace = float(message.get("pace", 1.0))
    if not 0.1 <= pace <= 1000:
        raise DeviceError("The wrench cannot go so fast.", read=f"{pace:g}", expected="0.1 to 1000")
    fault, size = _take_next(engines)
    name = str(message["name"])[:80]
    rng = np.random.default_rng(zlib.crc32(f"{message.get('unit', '')} {name}".encode()))
    joint = Joint(slope_nm_deg=torques[-1] / 60.0, stretch_deg=120.0)
    hand = Hand(rate_hz=RATE_HZ, speed_deg_s=90.0, stroke_deg=120.0)
    trace, _ = tighten(name, stages, rng, fault, size, joint, hand)
    send_line(out, {"name": name, "rate_hz": RATE_HZ})
    at, begun = 0, time.monotonic()
    while at < trace.time_s.size:
        upto = (time.monotonic() - begun) * pace + EVERY_S
        end = int(np.searchsorted(trace.time_s, float(trace.time_s[0]) + upto, side="right"))
        if end > at:
            columns = (trace.time_s, trace.angle_deg, trace.torque_nm)
            time_s, angle, torque = (c[at:end].round(4).tolist() for c in columns)
            send_line(out, {"time_s": time_s, "angle_deg": angle, "torque_nm": torque})
            at = end
        time.sleep(EVERY_S / max(pace, 1.0))
    send_line(out, {"end": True})


def make_wrench(address: tuple[str, int], engines: Engines) -> Server:
    return Server(address, engines, WRENCH_PROTOCOL, answer, {"tighten": stream})


def main(arguments: list[str] | None = None) -> None:
    """Run the wrench until it is told to stop."""
    run(make_wrench, "The stand-in torque–angle wrench.", 8424, arguments)


if __name__ == "__main__":
    main()
