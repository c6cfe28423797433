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


def months_over(start: date, today: date) -> int:
    """Months of a term that are over on a day [months]: each ends with the end of its last day, the same day of the month as its
    start or the month's last (Regulation (EEC, Euratom) No 1182/71, Article 3).

    >>> months_over(date(2025, 3, 14), date(2025, 4, 14)), months_over(date(2025, 3, 14), date(2025, 4, 15))
    (0, 1)
    """
    months = max((today.year - start.year) * 12 + today.month - start.month, 0)
    while months > 0 and add_months(start, months) >= today:
        months -= 1
    return months


def months_begun(start: date, today: date) -> int:
    """Months of a term that have begun on a day, the running one with them [months]. 0 on the day of the start itself.

    >>> months_begun(date(2025, 3, 14), date(2025, 3, 15)), months_begun(date(2025, 3, 14), date(2025, 4, 14))
    (1, 1)
    """
    return months_over(start, today) + 1 if today > start else 0
