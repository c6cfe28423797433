"""What the made-up shop sells, the cars it knows, and its warranty terms."""

from typing import NamedTuple

from ..core.battery.label import Use


class Line(NamedTuple):
    """A line with its terms: months free and pro rata, months of shelf, uses left out."""

    name: str
    chemistry: str
    free_months: int
    pro_rata_months: int
    date_code_allowance_months: int
    excluded_uses: tuple[Use, ...]


LINES = (
    Line("Merlow Plain", "flooded", 12, 24, 3, (Use.TAXI, Use.DELIVERY)),
    Line("Merlow Silver", "calcium", 24, 36, 4, (Use.TAXI,)),
    Line("Quellan Cycle", "efb", 36, 24, 4, ()),
    Line("Quellan Mat", "agm", 36, 36, 6, ()),
    Line("Tessaro Duty", "calcium", 18, 0, 3, ()),
)

GROUP_CCA = {
    "21R": 500, "24": 600, "24F": 600, "25": 550, "26R": 520, "27F": 710, "34": 680, "35": 550, "36R": 650, "47": 600,
    "48": 680, "49": 850, "51R": 450, "58R": 540, "65": 750, "78": 690, "86": 590, "94R": 760, "96R": 560, "121R": 580,
}  # fmt: skip
EFB_GROUPS = ("24F", "35", "47", "48", "51R", "94R", "96R", "121R")
AGM_GROUPS = ("34", "35", "47", "48", "49", "65", "94R", "24F")


class Item(NamedTuple):
    """A catalogue item."""

    line: str
    group_code: str
    chemistry: str
    cca_amps: int
    capacity_ah_20h: int
    vent_tube: bool
    price_cents: int


def items() -> list[Item]:
    """At least 60 items over 20 groups."""
    result = []
    for group, cca in GROUP_CCA.items():
        vent = group in {"47", "48", "49", "94R", "96R"}
        result.append(Item("Merlow Plain", group, "flooded", cca - 40, cca // 10, vent, 6900 + cca * 5))
        result.append(Item("Merlow Silver", group, "calcium", cca, cca // 10 + 2, vent, 8400 + cca * 6))
        if group in EFB_GROUPS:
            result.append(Item("Quellan Cycle", group, "efb", cca + 20, cca // 10 + 2, vent, 11200 + cca * 8))
        if group in AGM_GROUPS:
            result.append(Item("Quellan Mat", group, "agm", cca + 80, cca // 10 + 4, vent, 14900 + cca * 11))
        if group in {"24", "27F", "34", "65", "78", "48"}:
            result.append(Item("Tessaro Duty", group, "calcium", cca + 40, cca // 10 + 6, vent, 10400 + cca * 7))
    return result


class DemoCar(NamedTuple):
    """A vehicle of the list: what it asks for."""

    make: str
    model: str
    from_year: int
    to_year: int | None
    group_code: str
    min_cca_amps: int
    chemistry: str = "flooded"
    stop_start: bool = False
    vent_tube: bool = False
    no_agm: bool = False
    also_codes: tuple[str, ...] = ()
    engine_litres: float | None = None
    engine_fuel: str = "petrol"
    needs_registration: bool = False
    stop_start_line_volts: float | None = None


CARS = (
    DemoCar(
        "Brevan",
        "Tillet 1.2",
        2019,
        None,
        "48",
        680,
        "efb",
        True,
        also_codes=("LN3",),
        engine_litres=1.2,
        needs_registration=True,
        stop_start_line_volts=12.5,
    ),
    DemoCar("Brevan", "Tillet 1.0", 2014, 2019, "47", 540, also_codes=("LN2",)),
    DemoCar(
        "Brevan",
        "Ossel",
        2016,
        None,
        "94R",
        760,
        "agm",
        True,
        vent_tube=True,
        also_codes=("LN4",),
        engine_litres=2.0,
        engine_fuel="diesel",
        needs_registration=True,
    ),
    DemoCar("Brevan", "Ossel Estate", 2010, 2016, "94R", 720),
    DemoCar("Brevan", "Corrick Van", 2012, None, "49", 850, vent_tube=True),
    DemoCar("Caldo", "Pico", 2008, 2015, "96R", 480),
    DemoCar("Caldo", "Pico Eco", 2016, None, "96R", 560, "efb", True),
    DemoCar("Caldo", "Stanza", 2011, 2018, "47", 560),
    DemoCar("Caldo", "Stanza Hybrid", 2019, None, "47", 600, "agm", True, vent_tube=True),
    DemoCar("Caldo", "Verno", 2005, 2012, "36R", 590),
    DemoCar("Ister", "Kite", 2009, 2017, "35", 490),
    DemoCar("Ister", "Kite S", 2018, None, "35", 550, "efb", True),
    DemoCar("Ister", "Heron", 2006, 2014, "24F", 550),
    DemoCar("Ister", "Heron GX", 2015, None, "24F", 600),
    DemoCar("Ister", "Wren", 2010, None, "51R", 400),
    DemoCar("Ister", "Bittern", 2013, None, "25", 500),
    DemoCar("Navarre", "Delta", 2007, 2015, "34", 650),
    DemoCar("Navarre", "Delta R", 2016, None, "34", 680),
    DemoCar("Navarre", "Ridge", 2012, None, "65", 750),
    DemoCar("Navarre", "Ridge Diesel", 2012, None, "65", 750, "agm", True),
    DemoCar("Navarre", "Mesa", 2004, 2011, "78", 640),
    DemoCar("Navarre", "Hollin", 1988, 1996, "24", 520, no_agm=True),
    DemoCar("Pallin", "Otto", 2011, None, "121R", 520),
    DemoCar("Pallin", "Otto Stop", 2018, None, "121R", 580, "efb", True),
    DemoCar("Pallin", "Larch", 2008, None, "26R", 480),
    DemoCar("Pallin", "Larch Long", 2014, None, "27F", 650),
    DemoCar("Pallin", "Sorrel", 2003, 2010, "58R", 500),
    DemoCar("Pallin", "Alder", 2009, None, "86", 540),
    DemoCar("Torvane", "T2", 2012, None, "21R", 450),
    DemoCar("Torvane", "T4 Tourer", 2017, None, "48", 700, "agm", True, vent_tube=True, also_codes=("LN3",)),
)

PEOPLE = (
    ("Ilse Marrant", "lead", "314159"),
    ("Teo Banerji", "counter", "271828"),
    ("Noor Halvard", "counter", "161803"),
    ("Wren Castellane", "owner", "141421"),
)
CUSTOMERS = (
    ("P. Adeyo", "0555 0140"), ("M. Lindqvar", "0555 0141"), ("Weir Garage", "0555 0142"), ("R. Osei-Tan", "0555 0143"),
    ("Quayside Taxis", "0555 0144"), ("L. Bramwell", "0555 0145"), ("S. Ferreday", "0555 0146"), ("Hill Farm", "0555 0147"),
)  # fmt: skip
SHOP = "Weir Lane Batteries"
PAPER_HEAD = "4 Weir Lane, by the old lock\n0555 0100"
PAPER_FOOT = "Old batteries are taken back here, wherever they were bought."


def _mode(name: str, volts: float, *chemistries: str, does: str = "ordinary") -> dict[str, object]:
    return {"name": name, "volts": volts, "chemistries": list(chemistries), "does": does}


WET = ("flooded", "hybrid", "calcium", "efb")
TWELVE = [_mode("wet", 14.7, *WET), _mode("mat", 14.6, "agm"), _mode("gel", 14.2, "gel")]

EQUIPMENT: tuple[tuple[str, dict[str, object], int | None, str, str], ...] = (
    ("Charger 1", {"kind": "charger", "amps": 10, "modes": TWELVE, "limits_itself": True}, 120, "in_use", ""),
    ("Charger 2", {"kind": "charger", "amps": 6, "modes": TWELVE, "limits_itself": True, "reports": True}, 120, "in_use", ""),
    ("Charger 3", {"kind": "charger", "amps": 20, "modes": [*TWELVE, _mode("slow recovery", 14.6, *WET, does="recovery"), _mode("equalise", 15.5, "flooded", does="equalise")], "limits_itself": False}, 200, "in_use", "old transformer: somebody by it"),
    ("Charger 4", {"kind": "charger", "amps": 4, "modes": TWELVE, "outputs": 2, "limits_itself": True}, 60, "in_use", ""),
    ("Charger 5", {"kind": "charger", "amps": 15, "modes": [*TWELVE, _mode("6 V wet", 7.3, *WET)], "limits_itself": True}, 400, "out_of_order", "fan stands still"),
    ("Bench meter", {"kind": "meter", "percent": 0.5, "digits": 2, "resolution_volts": 0.01}, 90, "in_use", ""),
    ("Pocket meter", {"kind": "meter", "percent": 1.0, "digits": 5, "resolution_volts": 0.01}, 430, "in_use", ""),
    ("Bench tester 1", {"kind": "tester", "scales": ["CCA", "EN", "DIN", "JIS"], "types": ["flooded", "efb", "agm_flat", "agm_spiral", "gel"], "uncertainty_ratio": 0.1, "shows": "amps"}, 150, "in_use", ""),
    ("Bench load", {"kind": "load", "adjustable": True, "amps": 500, "seconds": 15, "shows": "volts", "cool_minutes": 10}, 150, "in_use", ""),
    ("Fixed load", {"kind": "load", "adjustable": False, "amps": 100, "seconds": 10, "shows": "bands", "cool_minutes": 3}, 150, "in_use", "clamps loose"),
    ("Hydrometer", {"kind": "hydrometer", "shows": "gravity", "resolution": 0.005}, 150, "in_use", ""),
    ("Discharger", {"kind": "discharger", "amps": 25}, 150, "in_use", ""),
)  # fmt: skip
"""Name, figures, days since its check, state, remarks."""
