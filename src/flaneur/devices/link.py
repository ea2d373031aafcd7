"""The vehicle link, as a client."""

from flaneur.devices.client import LineClient
from flaneur.formats.devices.lines import LINK_PROTOCOL


class LinkClient(LineClient):
    """A connection to a vehicle link."""

    protocol = LINK_PROTOCOL
    what = "vehicle link"
    instead = "drop in a CSV log instead"
