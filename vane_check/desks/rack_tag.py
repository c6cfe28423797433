"""The rack tag: gather what goes on it."""

from datetime import datetime

from ..core.words import Words, digits, fixed, say
from ..papers.rack_tag import RackTag, TagSize, draw
from .check import CheckView, view
from .counter import battery_or_refused
from .desk import Desk
from .paper_language import in_its_language

DUE_WORDS = {
    "on_charge": say("rack_tag.off_charge"),
    "standing": say("rack_tag.rested_enough"),
    "ready": say("rack_tag.ready"),
    "gone": say("rack_tag.gone"),
}


@in_its_language
def rack_tag_pdf(desk: Desk, tag: int, base: str, now: datetime, size: TagSize) -> bytes:
    """The tag of a battery as it stands now, as a PDF. `base` is the address this server is reached at."""
    battery_or_refused(desk, tag)
    seen = view(desk, tag)
    plan = seen.limits.plan if seen.planned or seen.place == "on_charge" else seen.judgement.next_step.plan
    due = seen.needs_hand_at
    rating = seen.battery.rating
    return draw(
        RackTag(
            shop=desk.store.name,
            tag=tag,
            line=seen.battery.line,
            rating=say("figures.amps_scale", amps=fixed(rating.amps, 0), scale=rating.scale.value) if rating else "",
            set_words=_set(seen, None if plan is None else plan.words),
            forbidden=say("rack_tag.hold_it_apart")
            if seen.judgement.outcome == "unsafe"
            else None
            if plan is None or plan.refused is None
            else plan.refused.why,
            due_at=None if due is None else due.astimezone(desk.zone),
            due_words=(DUE_WORDS.get(seen.place) or say("rack_tag.needs_a_hand")) if due else seen.judgement.headline,
            address=f"{base.rstrip('/')}/check/{tag}",
            printed_at=now.astimezone(desk.zone),
        ),
        size,
    )


def _set(seen: CheckView, planned: Words | None) -> Words | None:
    """What is set: as it hangs on its charger, else as its plan says."""
    stay = seen.stay
    if stay is None or seen.place != "on_charge":
        return planned
    return say(
        "rack_tag.v_a_h_on",
        volts=fixed(stay.volts, 1),
        amps=digits(stay.amps),
        hours=fixed(stay.hours, 0),
        charger=stay.charger,
    )
