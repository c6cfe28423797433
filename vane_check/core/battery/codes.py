"""What a code on a label or in a list says: size, side, volts, Ah, amps; computed where the code carries it."""

import re
from collections.abc import Mapping
from typing import Literal

from pydantic import BaseModel, ConfigDict

from ..tables import footprints
from ..tables.base import Sourced
from ..tables.codes import Figures, aliases, european_designs, japanese_classes, japanese_ranks, stop_start_letters
from ..words import NOTHING, Words, cited, digits, in_a_row, say, word
from .label import Chemistry, Rating, RatingScale

System = Literal["size", "european number", "japanese", "japanese stop-start", "other trade"]
SIX_VOLT_UNDER, AH_TAKEN_OFF, AMPS_PER_STEP = 500, 500, 10
"""How the nine digits are made. Source: EN 50342, from memory: under 500 the number is the Ah of a 6 V battery; from
500 on it is 500 more than the Ah of a 12 V one; the last three digits are tenths of the EN amps."""
MM_PER_CM = 10


class UnknownCode(ValueError):
    """A code that says nothing here; the message is a sentence with the way out."""


class CodeRead(BaseModel):
    """What a code was found to say. What it does not carry is None, and `says` tells it in a line."""

    model_config = ConfigDict(frozen=True)

    code: str
    system: System
    group_code: str | None = None
    length_mm: int | None = None
    width_mm: int | None = None
    height_mm: int | None = None
    positive_side: Literal["left", "right"] | None = None
    post: str | None = None
    nominal_volts: int | None = None
    capacity_ah_20h: float | None = None
    rating: Rating | None = None
    rank: int | None = None
    chemistry: Chemistry | None = None
    says: Words = NOTHING
    source: Words
    standing: str


def plain(text: str) -> str:
    """A code without spaces, dots, dashes and the word group, in capitals.

    >>> plain("560 408 054"), plain("Group 24f"), plain("q-85")
    ('560408054', '24F', 'Q85')
    """
    return re.sub(r"[\s.\-/]", "", re.sub(r"(?i)\bgroup\b|\bgrp\b", "", text)).upper()


def read_code(text: str, own: Mapping[str, Figures] | None = None) -> CodeRead:
    """What a code says. `own` are the shop's own names of codes, by the code as `plain` writes it; they come first.

    Raises UnknownCode with what to do instead.
    """
    code = plain(text)
    if not code:
        raise UnknownCode(say("codes.enter_what_stands_on_the_label_such_as_48"))
    if own and code in own:
        return _alias(code, own[code])
    sizes = {plain(name): name for name in footprints()}
    if code in sizes:
        return _size(code, sizes[code])
    for reader in (_european, _japanese, _stop_start):
        result = reader(code)
        if result is not None:
            return result
    if code in aliases():
        return _alias(code, aliases()[code])
    raise UnknownCode(say("codes.stands_in_no_list_here_measure_length", text=text.strip()))


def _size(code: str, name: str) -> CodeRead:
    size = footprints()[name]
    return CodeRead(
        code=code,
        system="size",
        **_outside(name),
        nominal_volts=size.nominal_volts,
        says=say("codes.size_2", system=size.system, name=name),
        source=cited(size.origin.source),
        standing=size.origin.standing,
    )


def _outside(name: str, side: str = "") -> dict[str, object]:
    """What the table says of a size; the same case with the other side where a list says so."""
    size = footprints().get(name)
    if size is None:
        return {"positive_side": side or None}
    return {
        "group_code": name if side in {"", size.positive_side} else None,
        "length_mm": size.length_mm,
        "width_mm": size.width_mm,
        "height_mm": size.height_mm,
        "positive_side": side or size.positive_side,
        "post": size.post,
    }


def _european(code: str) -> CodeRead | None:
    if re.fullmatch(r"\d{9}", code) is None:
        return None
    number, amps = int(code[:3]), int(code[6:]) * AMPS_PER_STEP
    volts, ah = (6, number) if number < SIX_VOLT_UNDER else (12, number - AH_TAKEN_OFF)
    design = european_designs().get(code[:6])
    origin = design.origin if design else Sourced("EN 50342", "memory")
    box = say("codes.size", size=design.size) if design else say("codes.its_design_number_is_in_no_list_here")
    return CodeRead(
        code=f"{code[:3]} {code[3:6]} {code[6:]}",
        system=say("codes.european_number"),
        **(_outside(design.size, design.positive_side) if design else {}),
        nominal_volts=volts,
        capacity_ah_20h=ah or None,
        rating=_rating(amps, "EN"),
        says=say("codes.figures_of_a_european_number", volts=volts, ah=ah, amps=amps, box=box),
        source=cited(origin.source),
        standing=origin.standing,
    )


def _rating(amps: float | None, scale: str) -> Rating | None:
    try:
        return None if amps is None else Rating(amps=amps, scale=RatingScale(scale))
    except ValueError:  # outside of what any label says
        return None


def _japanese(code: str) -> CodeRead | None:
    parts = re.fullmatch(r"(\d{2,3})([A-H])(\d{2})([LR])?(S)?", code)
    if parts is None:
        return None
    rank, letter, length, side, thick = parts.groups()
    of_class = japanese_classes()[letter]
    name = f"{letter}{length}{side or ''}"
    figures = japanese_ranks().get(f"{rank}{letter}{length}")
    table = footprints().get(name)
    post = "top" if thick else of_class.post
    positive = {"L": "right", "R": "left"}.get(side or "")
    where = (
        say("codes.positive_posts_towards_you", positive=word(positive))
        if positive
        else say("codes.the_side_of_its_positive_is_not_in_it_look")
    )
    height = table.height_mm if table else of_class.height_over_posts_mm
    return CodeRead(
        code=code,
        system="japanese",
        group_code=name if table and not thick else None,
        length_mm=table.length_mm if table else int(length) * MM_PER_CM,
        width_mm=table.width_mm if table else of_class.width_mm,
        height_mm=height,
        positive_side=positive,
        post=post,
        nominal_volts=12,
        capacity_ah_20h=figures.capacity_ah_20h if figures else None,
        rating=_rating(figures.rated_amps, "CCA") if figures else None,
        rank=int(rank),
        says=say(
            "codes.rank_class_by_mm_cm_long",
            rank=int(rank),
            letter=letter,
            width_mm=of_class.width_mm,
            case_height_mm=of_class.case_height_mm,
            length=int(length),
            where=where,
        ),
        source=cited(of_class.origin.source),
        standing=of_class.origin.standing,
    )


def _stop_start(code: str) -> CodeRead | None:
    parts = re.fullmatch(r"([A-Z])(\d{2,3})(R)?", code)
    if parts is None or parts[1] not in stop_start_letters() or code in aliases():
        return None
    size, origin = stop_start_letters()[parts[1]]
    side = "R" if parts[3] else "L"
    return CodeRead(
        code=code,
        system=say("codes.japanese_stop_start"),
        **_outside(f"{size}{side}"),
        nominal_volts=12,
        rank=int(parts[2]),
        chemistry=Chemistry.EFB,
        says=say("codes.stop_start_type_rank_size", parts=int(parts[2]), size=size, side=side),
        source=cited(origin.source),
        standing=origin.standing,
    )


def _alias(code: str, of: Figures) -> CodeRead:
    size = footprints().get(of.size)
    words = [
        say("codes.size", size=of.size) if of.size else "",
        say("figures.capacity_ah_20h_ah", capacity_ah_20h=digits(of.capacity_ah_20h)) if of.capacity_ah_20h else "",
    ]
    words.append(
        say("figures.rated_amps_rated_scale_a", rated_amps=digits(of.rated_amps), rated_scale=of.rated_scale)
        if of.rated_amps
        else ""
    )
    return CodeRead(
        code=code,
        system=say("codes.other_trade"),
        **_outside(of.size, of.positive_side),
        nominal_volts=size.nominal_volts if size else None,
        capacity_ah_20h=of.capacity_ah_20h,
        rating=_rating(of.rated_amps, of.rated_scale),
        says=in_a_row((of.trade or say("codes.our_own_list"), in_a_row(words, ", ")), ": "),
        source=cited(of.origin.source),
        standing=of.origin.standing,
    )
