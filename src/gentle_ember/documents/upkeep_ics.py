"""Upkeep as a calendar (iCalendar, RFC 5545): an all-day entry for each task that has a day."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import UTC, date, datetime, timedelta

from icalendar import Alarm, Calendar, Event

from gentle_ember.core.stages.logbook.upkeep import Due

AHEAD = timedelta(days=7)


def upkeep_ics(name: str, sets: Iterable[tuple[str, str, Iterable[Due]]], today: date) -> bytes:
    """A calendar of what is due on one set or more; what is overdue stands on today.

    Args:
        name: of the calendar.
        sets: of each the id of its job, which tells its entries from another's so that a calendar
            that is loaded again replaces them, its title, and its upkeep.
        today: the day it is made.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Gentle Ember//upkeep//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    for job_id, title, due in sets:
        for one in due:
            if one.day is not None:
                calendar.add_component(_event(job_id, title, one, one.day, today))
    return bytes(calendar.to_ical())


def _event(job_id: str, title: str, one: Due, day: date, today: date) -> Event:
    event = Event()
    event.add("uid", f"{one.task.key}-{job_id}@gentle-ember")
    event.add("dtstamp", datetime(today.year, today.month, today.day, tzinfo=UTC))
    on = max(day, today)
    event.add("dtstart", on)
    event.add("dtend", on + timedelta(days=1))
    event.add("summary", f"{one.task.name}: {title}")
    more = f" Take: {one.task.parts}." if one.task.parts else ""
    about = ""
    if one.early and one.late and one.early != one.late:
        about = f" By its hours between {one.early} and {one.late}."
    event.add("description", f"{one.task.why}{about}{more} The set's own manual comes first.")
    event.add("transp", "TRANSPARENT")
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("description", one.task.name)
    alarm.add("trigger", -AHEAD)
    event.add_component(alarm)
    return event
