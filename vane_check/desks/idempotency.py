"""A write carries the name its screen gave it: sent twice, after a lost answer or by a second Enter, it is done once."""

import hashlib
import json
import uuid
from collections.abc import Callable

from pydantic import BaseModel

from ..core.words import say
from ..records import writes
from ..records.models import Write
from .desk import Conflict, Desk


def once(
    desk: Desk,
    write_id: uuid.UUID,
    what: str,
    body: BaseModel,
    do: Callable[[], int | None],
    is_same: Callable[[int | None], bool] = lambda _: True,
) -> int | None:
    """Do a write, or give the tag it led to when it was done already.

    Raises Conflict when that name was used for something else or by somebody else. `is_same` asks of what leaves no trace, not
    even a digest's, whether it was said before too.
    """
    content = json.dumps(body.model_dump(mode="json"), sort_keys=True)  # in ASCII, whatever signs are in it
    digest = hashlib.sha256(f"{what} {content}".encode()).hexdigest()
    made = writes.find_write(desk.session, write_id)
    if made is not None:
        if (made.digest, made.staff_id) != (digest, desk.staff.id) or not is_same(made.tag):
            raise Conflict(say("idempotency.that_write_was_made_already_with_other"))
        return made.tag
    tag = do()
    desk.session.add(Write(write_id=write_id, digest=digest, staff_id=desk.staff.id, tag=tag))
    desk.session.flush()
    return tag
