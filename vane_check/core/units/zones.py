"""The time zones there are, read once and held: whoever serves may not reach the files later."""

from functools import cache
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError, available_timezones

_SKIPPED = ("Etc/", "SystemV/", "posix/", "right/")


@cache
def _load_zones() -> dict[str, ZoneInfo]:
    result = {}
    for name in sorted(available_timezones()):
        try:
            result[name] = ZoneInfo(name)
        except ZoneInfoNotFoundError:
            continue
    return result


def known_zones() -> tuple[str, ...]:
    """Every zone a shop can live in, by name."""
    return tuple(name for name in _load_zones() if not name.startswith(_SKIPPED) and name != "localtime")
