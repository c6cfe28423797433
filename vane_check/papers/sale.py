"""The paper for a sale: what it is, what was paid, the deposit and how it comes back, its warranty, and what its owner does."""

from collections.abc import Sequence
from datetime import datetime
from typing import NamedTuple

from reportlab.platypus import Flowable, Spacer

from ..core.words import Text, dated, say
from .family import GREY, Head, draw, head_of, heading, room, table_of, words


class SalePaper(NamedTuple):
    """What the paper says; `stands` is empty while the sale does, else how it was taken back."""

    shop: Head
    tag: int
    sold_at: datetime
    who: str
    to: Text
    name: str
    facts: Sequence[tuple[Text, Text]]
    sum: Sequence[tuple[Text, Text]]
    deposit: Text
    warranty: Sequence[Text]
    taken_back: Text
    advice: Sequence[Text]


def sale_paper(paper: SalePaper) -> bytes:
    """The paper as a PDF of one sheet."""
    wide = room(paper.shop)
    under = say("figures.written_at_who", written_at=dated(paper.sold_at, "%d %b %Y, %H:%M"), who=paper.who)
    title = say("sale_paper.sale", tag=paper.tag)
    story: list[Flowable] = [
        *head_of(paper.shop, title, under, wide),
        *([words(paper.taken_back, 13, bold=True, space=8)] if paper.taken_back else []),
        words(paper.name, 17, bold=True, space=4),
        *([words(paper.to, 11, GREY, space=6)] if paper.to else []),
        table_of(("", ""), paper.facts, (0.34, 0.66), wide),
        Spacer(1, 10),
        heading(say("sale_paper.paid")),
        table_of(("", ""), paper.sum, (0.5, 0.25), wide),
        *([Spacer(1, 6), words(paper.deposit, 10.5, space=4)] if paper.deposit else []),
        Spacer(1, 8),
        heading(say("slip.warranty")),
        *(words(line, 10.5) for line in paper.warranty),
        Spacer(1, 8),
        heading(say("sale_paper.what_to_do")),
        *(words(line, 10.5) for line in paper.advice),
    ]
    return draw(paper.shop, title, story)
