"""What codes on labels and in lists stand for: European and Japanese type numbers, names of other trades."""

from functools import cache
from typing import NamedTuple

from .base import Sourced, origin_of, rows_of


class JapaneseClass(NamedTuple):
    """Width and height of a JIS D 5301 class [mm]; the height over the posts where it is known."""

    width_mm: int
    case_height_mm: int
    height_over_posts_mm: int | None
    post: str
    origin: Sourced


class Figures(NamedTuple):
    """What a code is known to promise. None where the list does not say."""

    size: str
    positive_side: str
    capacity_ah_20h: float | None
    rated_amps: float | None
    rated_scale: str
    trade: str
    origin: Sourced


@cache
def japanese_classes() -> dict[str, JapaneseClass]:
    """Classes of JIS D 5301 by their letter."""
    return {
        row["letter"]: JapaneseClass(
            int(row["width_mm"]),
            int(row["case_height_mm"]),
            int(row["height_over_posts_mm"]) if row["height_over_posts_mm"] else None,
            row["post"],
            origin_of(row),
        )
        for row in rows_of("japanese-classes.csv")
    }


@cache
def japanese_ranks() -> dict[str, Figures]:
    """Least figures of a rank, by rank and size without the side: 55D23."""
    return {
        row["rank_and_size"]: Figures(
            "", "", float(row["capacity_ah_20h"]), float(row["cca_amps"]), "CCA", "", origin_of(row)
        )
        for row in rows_of("japanese-ranks.csv")
    }


@cache
def stop_start_letters() -> dict[str, tuple[str, Sourced]]:
    """Sizes behind the letters of the Japanese stop-start codes, without the side."""
    return {row["letter"]: (row["size"], origin_of(row)) for row in rows_of("stop-start-letters.csv")}


@cache
def european_designs() -> dict[str, Figures]:
    """Sizes behind the first six digits of a European type number."""
    return {
        row["ah_and_design"]: Figures(row["size"], row["positive_side"], None, None, "EN", "", origin_of(row))
        for row in rows_of("european-designs.csv")
    }


@cache
def aliases() -> dict[str, Figures]:
    """The names of other trades that ship with this, each from memory."""
    return {
        row["code"]: Figures(
            row["size"],
            row["positive_side"],
            float(row["capacity_ah_20h"]) if row["capacity_ah_20h"] else None,
            float(row["rated_amps"]) if row["rated_amps"] else None,
            row["rated_scale"] or "CCA",
            row["trade"],
            origin_of(row),
        )
        for row in rows_of("aliases.csv")
    }
