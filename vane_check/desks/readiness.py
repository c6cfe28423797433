"""Whether this release can work: the tables are its own, there is room, the clock runs right."""

from ..records.base import StoreSession
from ..records.migrate import newest_version, version_of


def why_not_ready(session: StoreSession, is_full: bool, turned_hours: float) -> str | None:
    """Why not, in one sentence; None when it is."""
    has, wants = version_of(session), newest_version()
    if has != wants:
        return f"The tables are version {has or 'none'}, this release works with {wants}: start it with bin/start"
    if is_full:
        return "The disk that holds the records is full: what is there can be read, nothing more is kept until there is room"
    if turned_hours:
        return (
            f"This machine's clock was turned by {turned_hours:+.0f} h since the start: set it right, then start again"
        )
    return None
