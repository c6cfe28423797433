"""When goods come: a supplier's days of delivery and how long an order takes."""

from collections.abc import Sequence
from datetime import date, datetime, time, timedelta


def next_delivery(now: datetime, lead_days: int, delivers_on: Sequence[int], order_before: str = "") -> date | None:
    """The first day a piece ordered now can be here.

    `now` in the shop's own time; `lead_days` from the order to the delivery, at least; `delivers_on` days of the week,
    Monday 0; `order_before` a time such as 16:00, after which an order counts for the next day. None where the supplier
    has no day.

    >>> next_delivery(datetime(2026, 11, 26, 9, 0), 1, (0, 2, 4))
    datetime.date(2026, 11, 27)
    >>> next_delivery(datetime(2026, 11, 26, 17, 0), 1, (0, 2, 4), "16:00")
    datetime.date(2026, 11, 30)
    """
    days = {day for day in delivers_on if 0 <= day <= 6}
    if not days:
        return None
    late = bool(order_before) and now.time() >= time.fromisoformat(order_before)
    day = now.date() + timedelta(days=lead_days + (1 if late else 0))
    while day.weekday() not in days:
        day += timedelta(days=1)
    return day
