"""What an item of the catalogue has, column by column: entered here once, for the form, lists in and out, match and followers.

`records.models.CatalogueItem` holds the same names, and `desks.items.GoodsItem` those that are typed: what is missing there is
named when the program is loaded.
"""

from typing import NamedTuple

from ...words import say
from . import values
from .field import Field, limited


class ItemColumn(NamedTuple):
    """One column of an item."""

    name: str
    matched: bool = False
    """A match looks at it."""
    as_written: bool = True
    """It goes into the row as it is typed; otherwise it is worked out of the size or the rating."""
    follows: bool = True
    """A store that follows another's catalogue takes it over."""
    field: Field | None = None
    """How a list that is brought in says it; None where it follows from other fields."""


ITEM_COLUMNS: tuple[ItemColumn, ...] = (
    ItemColumn("line", matched=True, field=Field("line", say("column.line"), values.text, True, ("brand", "range", "series", "marke", "serie"))),
    ItemColumn("name", matched=True, field=Field("name", say("column.name"), values.text, True, ("article", "item", "description", "bezeichnung", "artikel", "product"))),
    ItemColumn("group_code", matched=True, field=Field("group_code", say("column.size"), values.text, False, ("group", "bci", "box", "case", "gehäuse", "size code", "group size"))),
    ItemColumn("same_as", matched=True, as_written=False),
    ItemColumn("length_mm", matched=True, as_written=False, field=Field("length_mm", say("column.length"), values.number, False, ("l", "länge", "length mm"), True)),
    ItemColumn("width_mm", matched=True, as_written=False, field=Field("width_mm", say("column.width"), values.number, False, ("w", "b", "breite", "width mm"), True)),
    ItemColumn("height_mm", matched=True, as_written=False, field=Field("height_mm", say("column.height"), values.number, False, ("h", "höhe", "height mm"), True)),
    ItemColumn("nominal_volts", matched=True, as_written=False, field=Field("nominal_volts", say("column.volts"), values.whole, False, ("v", "voltage", "spannung"))),
    ItemColumn("positive_side", matched=True, as_written=False, field=Field("positive_side", say("column.side_of_the_positive"), values.side, False, ("polarity", "layout", "polung", "schaltung", "positive"))),
    ItemColumn("post", matched=True, as_written=False, field=Field("post", say("column.posts"), values.post, False, ("terminal", "pole"))),
    ItemColumn("ledge", matched=True, as_written=False, field=Field("ledge", say("column.ledge"), values.ledge, False, ("hold-down", "hold down", "bodenleiste"))),
    ItemColumn("chemistry", matched=True, as_written=False, field=Field("chemistry", say("column.type"), values.chemistry, False, ("technology", "technologie", "technik"))),
    ItemColumn("cca_amps", matched=True, as_written=False),
    ItemColumn("rated_amps", matched=True, as_written=False, field=Field("rated_amps", say("column.rating"), limited("rated_amps"), True, ("cca", "en", "amps", "cold crank", "kaltstart", "cca_amps"))),
    ItemColumn("rated_scale", matched=True, as_written=False, field=Field("rated_scale", say("column.scale_of_the_rating"), values.scale, False, ("norm", "standard", "rating scale"))),
    ItemColumn("capacity_ah_20h", matched=True, field=Field("capacity_ah_20h", say("column.ah"), limited("capacity_ah_20h"), False, ("capacity", "kapazität", "ah 20h", "c20"))),
    ItemColumn("reserve_minutes", matched=True, field=Field("reserve_minutes", say("column.reserve_minutes"), limited("reserve_minutes"), False, ("rc", "reserve", "reserve capacity"))),
    ItemColumn("vent_tube", matched=True, field=Field("vent_tube", say("column.vent_tube"), values.yes, False, ("vent", "entgasung", "degassing"))),
    ItemColumn("vent_side", matched=True, field=Field("vent_side", say("column.side_of_the_vent"), values.side)),
    ItemColumn("price_cents", matched=True, field=Field("price", say("column.price"), values.money, True, ("retail", "preis", "vk", "price eur", "selling price"))),
    ItemColumn("core_deposit_cents", field=Field("core_deposit", say("column.deposit_on_the_old_one"), values.money, False, ("core", "deposit", "pfand", "core charge"))),
    ItemColumn("supplier_id", follows=False, field=Field("supplier", say("column.supplier"), values.text, False, ("vendor", "lieferant"))),
    ItemColumn("supplier_code", field=Field("supplier_code", say("column.supplier_s_number"), values.text, False, ("article number", "part number", "sku", "art.-nr.", "artikelnummer"))),
)  # fmt: skip

ITEM_FIELDS: tuple[Field, ...] = tuple(
    sorted(
        (column.field for column in ITEM_COLUMNS if column.field is not None), key=lambda field: field.name != "name"
    )
)
"""Fields of a list of items, the name first."""


def names_of(columns: tuple[ItemColumn, ...] = ITEM_COLUMNS) -> tuple[str, ...]:
    """The names of columns, in order."""
    return tuple(column.name for column in columns)


MATCHED = names_of(tuple(column for column in ITEM_COLUMNS if column.matched))
AS_WRITTEN = names_of(tuple(column for column in ITEM_COLUMNS if column.as_written))
FOLLOWED = names_of(tuple(column for column in ITEM_COLUMNS if column.follows))
