"""The recall letter: a battery under watch is due to be tested again."""

from datetime import date
from typing import NamedTuple

from reportlab.platypus import Flowable, Spacer

from .family import GREY, Head, draw, head_of, room, words


class Recall(NamedTuple):
    """What the letter says."""

    shop: Head
    tag: int
    to: str
    car: str
    battery: str
    seen_on: date
    headline: str
    why: str
    due_on: date
    written_on: date


def recall(letter: Recall) -> bytes:
    """The letter as a PDF of one sheet."""
    what = f"your battery ({letter.battery})" + (f" in your {letter.car}" if letter.car else "")
    story: list[Flowable] = [
        *head_of(letter.shop, f"Tag {letter.tag}", f"{letter.written_on:%d %B %Y}", room(letter.shop)),
        Spacer(1, 24),
        words(letter.to, 11.5, space=20, own=not letter.to.startswith("To ")),
        words(f"We looked at {what} on {letter.seen_on:%d %B %Y}: {letter.headline.lower()}.", 11.5, space=8),
        words(f"{letter.why}.", 11.5, space=8) if letter.why else Spacer(1, 0),
        words(
            f"It should be tested again on or after {letter.due_on:%d %B %Y}. Bring it, or come with the car; it takes a few "
            "minutes and tells whether it will last the season.",
            11.5, space=8,
        ),
        words(
            "Until then: if it cranks slowly, if its case is warm, swollen or wet, or if it smells, do not charge it and do "
            "not start the car with it; call us.",
            11.5, space=24,
        ),
        words(letter.shop.shop, 11.5, bold=True, own=True),
        Spacer(1, 20),
        words("Take the number of the tag with you: it finds everything that was read.", 9.5, GREY),
    ]  # fmt: skip
    return draw(letter.shop, f"Test again, tag {letter.tag}", story)
