"""Whether this release can work: the tables are its own, there is room, the clock runs right."""

from ..core.words import Figure, Words, say
from ..records.base import StoreSession
from ..records.migrate import newest_version, version_of


def why_not_ready(session: StoreSession, is_full: bool, turned_hours: float) -> Words | None:
    """Why not, in one sentence; None when it is."""
    has, wants = version_of(session), newest_version()
    if has != wants:
        return say("readiness.the_tables_are_version_this_release_works", has=has or say("readiness.none"), wants=wants)
    if is_full:
        return say("readiness.the_disk_that_holds_the_records_is_full")
    if turned_hours:
        return say("readiness.this_machines_clock_was_turned_by_h_since", hours=Figure(f"{turned_hours:+.0f}"))
    return None
