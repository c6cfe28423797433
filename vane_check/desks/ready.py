"""Whether the database is one this release can work with."""

from ..records.base import StoreSession
from ..records.migrate import newest_version, version_of


def why_not_ready(session: StoreSession) -> str | None:
    """Why not, in one sentence; None when it is."""
    has, wants = version_of(session), newest_version()
    if has == wants:
        return None
    return f"The tables are version {has or 'none'}, this release works with {wants}: start it with bin/start"
