"""The slip: gather what goes on the customer's paper."""

from datetime import datetime

from ..core.warranty import Decision
from ..papers.slip import Slip, draw
from ..records import batteries
from .check import view
from .counter import found_battery
from .desk import Desk
from .warranty import look_up


def slip_pdf(desk: Desk, tag: int, now: datetime) -> bytes:
    """The slip of a battery as it is judged now, as a PDF."""
    row = found_battery(desk, tag)
    check = batteries.latest_check(desk.session, row.id)
    seen = view(desk, tag)
    kept = batteries.judgement_with_rules(desk.session, check.id)
    warranty = look_up(desk, tag, None, now).answer
    said = (
        None
        if warranty.decision in {Decision.NOT_OURS, Decision.NOT_FAILED}
        else f"{warranty.headline}. {warranty.next_for_customer}."
    )
    return draw(
        Slip(
            shop=desk.store.name,
            tag=tag,
            battery=seen.battery,
            customer=seen.customer_name,
            car=seen.car.name if seen.car else "",
            judgement=seen.judgement,
            judged_at=(kept[0].made_at if kept else now).astimezone(desk.zone),
            printed_at=now.astimezone(desk.zone),
            who=kept[2].name if kept else desk.staff.name,
            temperature_unit=desk.store.temperature_unit,
            warranty=said,
        )
    )
