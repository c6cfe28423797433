"""Months as the trade counts them in warranty terms and reminders."""

import calendar
from datetime import date


def add_months(start: date, months: int) -> date:
    """The same day some months on, or the month's last day when it has no such day.

    >>> add_months(date(2025, 1, 31), 1)
    datetime.date(2025, 2, 28)
    """
    month_index = start.year * 12 + start.month - 1 + months
    year, month = divmod(month_index, 12)
    return date(year, month + 1, min(start.day, calendar.monthrange(year, month + 1)[1]))


def whole_months_between(start: date, end: date) -> int:
    """Completed months from start to end [months]; a part month does not count. 0 when end is before start.

    >>> whole_months_between(date(2025, 3, 14), date(2026, 3, 13))
    11
    """
    months = (end.year - start.year) * 12 + end.month - start.month
    if add_months(start, months) > end:
        months -= 1
    return max(months, 0)
