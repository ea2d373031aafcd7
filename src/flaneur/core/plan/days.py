"""Working days."""

from datetime import date, timedelta

SATURDAY = 5


def working_day(first: date, later: int) -> date:
    """The working day so many after ``first``, itself or the next one after a Saturday or Sunday
    being the first.
    """
    day = first
    while day.weekday() >= SATURDAY:
        day += timedelta(days=1)
    for _ in range(later):
        day += timedelta(days=1)
        while day.weekday() >= SATURDAY:
            day += timedelta(days=1)
    return day
