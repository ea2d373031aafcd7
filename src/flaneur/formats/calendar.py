"""What is due as a calendar (RFC 5545), for whoever keeps one."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

from icalendar import Calendar, Event

TAKES = timedelta(minutes=30)


@dataclass(frozen=True)
class Due:
    """One thing that is due; its ``uid`` stays the same from reading to reading."""

    uid: str
    title: str
    words: str
    place: str
    at: datetime


def to_calendar(depot: str, dues: Iterable[Due], made: datetime) -> bytes:
    """A calendar with an event for each, half an hour from when it is due."""
    calendar = Calendar()
    calendar.add("prodid", "-//Flaneur//what is due//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", f"{depot}: due")
    for due in dues:
        event = Event()
        event.add("uid", due.uid)
        event.add("summary", due.title)
        event.add("description", due.words)
        event.add("location", due.place)
        event.add("dtstamp", made)
        event.add("dtstart", due.at)
        event.add("dtend", due.at + TAKES)
        calendar.add_component(event)
    return calendar.to_ical()
