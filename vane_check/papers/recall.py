"""The recall letter: a battery under watch is due to be tested again."""

from datetime import date
from typing import NamedTuple

from reportlab.platypus import Flowable, Spacer

from ..core.words import NOTHING, Text, Words, dated, say
from .family import GREY, Head, draw, head_of, room, words


class Recall(NamedTuple):
    """What the letter says."""

    shop: Head
    tag: int
    to: Text
    car: str
    battery: Text
    seen_on: date
    headline: Words
    why: Words
    due_on: date
    written_on: date
    starts_an_engine: bool = True


def recall(letter: Recall) -> bytes:
    """The letter as a PDF of one sheet."""
    what = say("recall.your_battery", battery=letter.battery) + (
        say("recall.in_your", car=letter.car) if letter.car else NOTHING
    )
    story: list[Flowable] = [
        *head_of(letter.shop, say('common.tag', tag=letter.tag), dated(letter.written_on, "%d %B %Y"), room(letter.shop)),
        Spacer(1, 24),
        words(letter.to, 11.5, space=20),
        words(say('recall.we_looked_at_on', what=what, seen_on=dated(letter.seen_on, '%d %B %Y'), headline=letter.headline), 11.5, space=8),
        words(letter.why + ".", 11.5, space=8) if letter.why else Spacer(1, 0),
        words(
            say('recall.it_should_be_tested_again_on_or_after', due_on=dated(letter.due_on, '%d %B %Y')) if letter.starts_an_engine
            else say('recall.it_should_be_tested_again_what_it_holds', due_on=dated(letter.due_on, '%d %B %Y')),
            11.5, space=8,
        ),
        words(
            say('recall.until_then_if_it_cranks_slowly_if_its_case') if letter.starts_an_engine
            else say('recall.until_then_if_it_runs_out_sooner'),
            11.5, space=24,
        ),
        words(letter.shop.shop, 11.5, bold=True),
        Spacer(1, 20),
        words(say('recall.take_the_number_of_the_tag_with_you_it'), 9.5, GREY),
    ]  # fmt: skip
    return draw(letter.shop, say("recall.test_again_tag", tag=letter.tag), story)
