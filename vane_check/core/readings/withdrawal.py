"""An entry taken back."""

from typing import Literal

from pydantic import Field

from .base import Identity, Reading


class Withdrawal(Reading):
    """Takes an entry back that was a slip of the finger. The entry stays readable; it no longer counts."""

    kind: Literal["withdrawal"] = "withdrawal"
    replaces: Identity = Field(description="id of the entry that is taken back")
