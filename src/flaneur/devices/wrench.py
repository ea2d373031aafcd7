"""The torque–angle wrench, as a client: what it measures while a bolt is tightened."""

from collections.abc import Iterator, Sequence
from typing import Any

from flaneur.core.book.tasks import Stage
from flaneur.core.errors import DeviceError
from flaneur.devices.client import LineClient
from flaneur.formats.devices.lines import WRENCH_PROTOCOL, read_line

COLUMNS = ("time_s", "angle_deg", "torque_nm")


class WrenchClient(LineClient):
    """A connection to a torque–angle wrench."""

    protocol = WRENCH_PROTOCOL
    what = "torque–angle wrench"
    instead = "write what another wrench showed"

    def tighten(
        self, unit: str, name: str, stages: Sequence[Stage], pace: float = 1.0
    ) -> Iterator[dict[str, list[float]]]:
        """Samples of one bolt as they come: seconds, degrees turned on, newton metres. Raises
        DeviceError when the wrench fails or breaks off.
        """
        message = {
            "do": "tighten",
            "unit": unit,
            "name": name,
            "stages": [s.model_dump(mode="json") for s in stages],
            "pace": pace,
        }
        try:
            connection, stream, _ = self._open(message)
            with connection, stream:
                while not (line := read_line(stream, self.what, self.protocol)).get("end"):
                    yield self._samples(line)
        except OSError as error:
            raise self._silent(error) from error

    def _samples(self, line: dict[str, Any]) -> dict[str, list[float]]:
        try:
            found = {name: [float(v) for v in line[name]] for name in COLUMNS}
        except (KeyError, TypeError, ValueError) as error:
            raise DeviceError(
                f"The {self.what} sent what is no measurement.",
                read=str(line)[:80],
                expected=", ".join(COLUMNS),
            ) from error
        return found
