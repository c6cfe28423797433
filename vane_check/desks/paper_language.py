"""Papers speak the shop's language."""

from collections.abc import Callable
from functools import wraps
from typing import Concatenate, ParamSpec

from ..papers.language import spoken
from ..records import house
from .desk import Desk

Asked = ParamSpec("Asked")


def in_its_language(draw: Callable[Concatenate[Desk, Asked], bytes]) -> Callable[Concatenate[Desk, Asked], bytes]:
    """A paper drawn in the language of the desk's shop."""

    @wraps(draw)
    def drawn(desk: Desk, /, *args: Asked.args, **more: Asked.kwargs) -> bytes:
        with spoken(house.settings_now(desk.session, desk.staff.store_id).language):
            return draw(desk, *args, **more)

    return drawn
