"""Cells: gravity and volts of each, and which gas on charge."""

from math import fsum
from statistics import median

from ..facts.acid import corrected_gravities
from ..facts.case import Case
from ..findings.kinds import StepKey
from ..findings.outcomes import Finding, Outcome
from ..house.rules import HouseRules
from ..readings import Band, Cells, CellState
from ..tables import entry_limits, hydrometer_bands
from ..units.compare import GRAVITY, VOLTS, at_least, over, rounded, under
from ..words import Words, capital, fixed, in_a_row, say
from .finding import finding
from .reads import reads


@reads(Cells)
def find(reading: Cells, case: Case) -> Finding:
    """Still cells beside lively ones, then volts, then gravity, then colours: the surest sign of a failing cell first."""
    finding = (
        _on_charge(reading, case) or _not_the_sum(reading, case) or _unlikely(reading, case) or _by_volts(reading, case)
    )
    if finding is None:
        finding = (
            _by_bands(reading, case) if reading.bands and not reading.specific_gravities else _by_gravity(reading, case)
        )
    if not reading.specific_gravities:
        return finding
    return finding.but(
        figures=tuple(rounded(gravity, GRAVITY) for gravity in corrected_gravities(reading, case.rules_for(reading)))
    )


def mean_gravity(reading: Cells, rules: HouseRules) -> float:
    """The mean of the corrected gravities [1], as every place shows it."""
    gravities = corrected_gravities(reading, rules)
    return rounded(fsum(gravities) / len(gravities), GRAVITY)


def _numbers(places: list[int]) -> Words:
    return say("cells.numbers", numbers=", ".join(str(place + 1) for place in places), count=len(places))


def _on_charge(reading: Cells, case: Case) -> Finding | None:
    still = [place for place, state in enumerate(reading.on_charge) if state is CellState.STILL]
    if not still or len(still) == len(reading.on_charge):
        return None
    return finding(
        reading, case.rules, "weight.charge_run", points_to=Outcome.DEAD_CELL, weight="weight.charge_run", remedy=StepKey.STOP_CHARGE,
        reading_text=say('cells.still', numbers=_numbers(still)), limit_text=say('cells.all_cells_gas_alike'),
        text=say('cells.still_beside_lively_ones_on_charge_shorted', numbers=capital(_numbers(still))),
        places=tuple(still),
    )  # fmt: skip


def _not_the_sum(reading: Cells, case: Case) -> Finding | None:
    """Cell volts that cannot belong to the volts of the whole are read again before anything is made of them."""
    if not reading.cell_volts or (wrong := _sum_that_cannot_be(reading, case)) is None:
        return None
    rules, (total, whole) = case.rules, wrong
    why = say("cells.the_cells_add_up_to_v_the_battery_read_v_a", total=fixed(total, 2), whole=fixed(whole, 2))
    return finding(
        reading, rules, "cells.sum_volts", points_to=None, weight=None, status="dropped", remedy=StepKey.CELLS,
        reading_text=say('cells.v_in_all', total=fixed(total, 2)), limit_text=say('cells.within_v_of_the_batterys', sum_volts=fixed(rules.cells.sum_volts.value, 2)),
        text=say('cells.cell_volts_do_not_count', why=why), why_not=why,
    )  # fmt: skip


def under_its_mates(figures: tuple[float, ...], place: int) -> float:
    """How far a cell lies under the median of its mates; negative where it lies over it. One that reads too high condemns nobody.

    >>> round(under_its_mates((1.265, 1.265, 1.265, 1.265, 1.265, 1.375), 0), 3)
    0.0
    """
    mates = figures[:place] + figures[place + 1 :]
    return median(mates) - figures[place] if mates else 0.0


def _unlikely(reading: Cells, case: Case) -> Finding | None:
    """A figure no resting cell has, or one far over its mates: a slip, a stuck float, acid that was added. It is asked again;
    read so twice it stands, and proves nothing. Source: tables/entry-limits.csv, common practice."""
    odd, by_gravity = _too_high(reading, case)
    if not odd:
        return None
    likely = entry_limits()["specific_gravity_likely" if by_gravity else "cell_volts_likely"].high
    figures = corrected_gravities(reading, case.rules_for(reading)) if by_gravity else reading.cell_volts
    highest = (
        say("figures.gravity", gravity=fixed(max(figures), 3))
        if by_gravity
        else say("figures.figures_v", volts=fixed(max(figures), 2))
    )
    most = (
        say("figures.gravity", gravity=fixed(likely, 3))
        if by_gravity
        else say("figures.likely_v", likely=fixed(likely, 2))
    )
    earlier = (cells for cells in case.all_of(Cells) if cells.taken_at < reading.taken_at)
    twice = any(_too_high(cells, case) == (odd, by_gravity) for cells in earlier)
    words = (
        say("cells.twice_the_same_acid_was_added_or_the_tool")
        if twice
        else say("cells.a_slip_a_stuck_float_or_acid_that_was")
    )
    return finding(
        reading, case.rules, "gravity.spread", points_to=Outcome.CANNOT_TELL, weight="weight.doubtful", status="doubtful",
        remedy=StepKey.LOAD_TEST if twice else StepKey.CELLS, reading_text=in_a_row((_numbers(odd), highest), " "),
        limit_text=say('cells.at_most_and_like_its_mates', most=most), places=tuple(odd),
        text=say('cells.more_than_a_cell_has_here', numbers=capital(_numbers(odd)), highest=highest, words=words),
    )  # fmt: skip


def _too_high(reading: Cells, case: Case) -> tuple[list[int], bool]:
    """Which cells read more than a cell can, or far more than their mates; and whether it is their gravity that does."""
    rules, limits = case.rules_for(reading), entry_limits()
    resting = () if reading.on_charge else reading.cell_volts
    for figures, name, apart, resolution in (
        (corrected_gravities(reading, rules), "specific_gravity_likely", rules.gravity.spread.value, GRAVITY),
        (resting, "cell_volts_likely", rules.cells.failing_volts.value, VOLTS),
    ):
        odd = [
            place
            for place, figure in enumerate(figures)
            if over(figure, limits[name].high, resolution)
            or at_least(-under_its_mates(figures, place), apart, resolution)
        ]
        if odd and (
            2 * len(odd) < len(figures) or any(over(figures[cell], limits[name].high, resolution) for cell in odd)
        ):
            return odd, name == "specific_gravity_likely"
    return [], False


def _by_volts(reading: Cells, case: Case) -> Finding | None:
    if not reading.cell_volts:
        return None
    rules, best = case.rules, max(reading.cell_volts)
    behind = [under_its_mates(reading.cell_volts, place) for place in range(len(reading.cell_volts))]
    failing = [i for i, gap in enumerate(behind) if at_least(gap, rules.cells.failing_volts.value, VOLTS)]
    if failing:
        return finding(
            reading, case.rules, "cells.failing_volts", points_to=Outcome.DEAD_CELL, weight="weight.cells",
            reading_text=say('figures.numbers_cell_volts_v', numbers=_numbers(failing), cell_volts=fixed(min(reading.cell_volts), 2)), limit_text=say('cells.within_v_of_its_mates', failing_volts=fixed(case.rules.cells.failing_volts.value, 2)),
            text=say('cells.v_under_its_mates_failing', numbers=capital(_numbers(failing)), behind=fixed(max(behind), 2)), places=tuple(failing),
        )  # fmt: skip
    if reading.specific_gravities:
        return None
    apart = [i for i, gap in enumerate(behind) if at_least(gap, rules.cells.suspect_volts.value, VOLTS)]
    suspect = bool(apart)
    return finding(
        reading, case.rules, "cells.suspect_volts", points_to=Outcome.CANNOT_TELL if suspect else None,
        weight="weight.doubtful" if suspect else None, status="doubtful" if suspect else "counts", remedy=StepKey.CELLS if suspect else None,
        reading_text=say('cells.to_v', cell_volts=fixed(min(reading.cell_volts), 2), best=fixed(best, 2)), limit_text=say('cells.within_v', suspect_volts=fixed(case.rules.cells.suspect_volts.value, 2)),
        places=tuple(apart),
        text=say('cells.cells_from_to_v_suspect', cell_volts=fixed(min(reading.cell_volts), 2), best=fixed(best, 2), numbers=_numbers(apart))
        if suspect
        else say('cells.cells_from_to_v_within_v_of_one_another', cell_volts=fixed(min(reading.cell_volts), 2), best=fixed(best, 2), suspect_volts=fixed(rules.cells.suspect_volts.value, 2)),
    )  # fmt: skip


def _sum_that_cannot_be(reading: Cells, case: Case) -> tuple[float, float] | None:
    """What the cells add up to and what the battery read, where the two cannot both be right [V]."""
    near = [
        (abs((volts.taken_at - reading.taken_at).total_seconds()), volts.volts) for volts in case.rests_near(reading)
    ]
    if not near or reading.on_charge:
        return None
    total, (_, whole) = sum(reading.cell_volts), min(near)
    return (total, whole) if over(abs(total - whole), case.rules.cells.sum_volts.value, VOLTS) else None


def _by_bands(reading: Cells, case: Case) -> Finding:
    """Colours are coarse: green in every cell points to sound, one that is not is named, and read again in figures."""
    bands = hydrometer_bands()
    rules = case.rules
    poor = [place for place, band in enumerate(reading.bands) if band is not Band.GREEN]
    red = [place for place, band in enumerate(reading.bands) if band is Band.RED]
    reading_text = say("cells.of_green", count=len(reading.bands) - len(poor), bands_count=len(reading.bands))
    limit_text = say("cells.green_from", bands=fixed(bands["green"][0], 3))
    charged = reading.after_full_charge or case.charged_before(reading)
    if not poor:
        return finding(
            reading, rules, "gravity.healthy", points_to=Outcome.SOUND, weight="weight.tester_equivocal", status="doubtful",
            reading_text=reading_text, limit_text=limit_text, text=say('cells.every_cell_in_the_green_charged_as_near_as'),
        )  # fmt: skip
    if charged or (red and len(red) < len(reading.bands)):
        odd = red or poor
        return finding(
            reading, rules, "gravity.spread", points_to=Outcome.CANNOT_TELL, weight="weight.doubtful", status="doubtful",
            remedy=StepKey.CELLS, reading_text=reading_text, limit_text=limit_text, places=tuple(odd),
            text=say('cells.not_in_the_green_read_the_gravity_in', numbers=capital(_numbers(odd))),
        )  # fmt: skip
    return finding(
        reading, rules, "gravity.healthy", points_to=Outcome.NEEDS_CHARGE, weight="weight.rest_near_line", reading_text=reading_text,
        limit_text=limit_text, places=tuple(poor), text=say('cells.charge_it_then_read_them_again', reading_text=reading_text),
    )  # fmt: skip


def _weak(gravities: tuple[float, ...], rules: HouseRules) -> list[int]:
    """Cells far under the median of their mates, and those that are discharged beside two that are charged."""
    full = at_least(sorted(gravities)[-2:][0], rules.gravity.healthy.value, GRAVITY)
    return [
        place
        for place, gravity in enumerate(gravities)
        if at_least(under_its_mates(gravities, place), rules.gravity.spread.value, GRAVITY)
        or (full and under(gravity, rules.gravity.discharged.value, GRAVITY))
    ]


def _by_gravity(reading: Cells, case: Case) -> Finding:
    rules = case.rules_for(reading)
    gravities = corrected_gravities(reading, rules)
    if not gravities:
        lively = CellState.LIVELY in reading.on_charge
        return finding(
            reading, rules, "weight.charge_run", points_to=None, weight=None, reading_text=say('cells.all_lively') if lively else say('cells.all_still'),
            limit_text=say('cells.all_cells_gas_alike'), text=say('cells.every_cell_gasses_on_charge') if lively else say('cells.no_cell_gasses_on_charge_none_stands_out'),
        )  # fmt: skip
    low, high = min(gravities), max(gravities)
    spread = high - low
    reading_text = say(
        "cells.to_mean", low=fixed(low, 3), high=fixed(high, 3), mean_gravity=fixed(mean_gravity(reading, rules), 3)
    )
    weak = _weak(gravities, rules)
    full = sum(at_least(gravity, rules.gravity.full.value, GRAVITY) for gravity in gravities)
    by_itself = 2 * full >= len(gravities)  # half the cells full prove the charge, whatever came before
    charged = reading.after_full_charge or case.charged_before(reading) or by_itself
    since = (
        say("cells.after_a_charge") if not by_itself or reading.after_full_charge else say("cells.by_its_gravity_full")
    )
    limit_text = say("cells.spread_under_after_a_charge", spread=fixed(rules.gravity.spread.value, 3))
    gap = max(under_its_mates(gravities, place) for place in range(len(gravities)))
    far_out = at_least(gap, rules.gravity.far_out.value, GRAVITY)
    if weak and (far_out or charged):
        few = len(weak) <= rules.cells.weak_to_equalise.value
        if charged and few and not reading.equalised and not far_out and case.may_equalise:
            return finding(
                reading, rules, "cells.weak_to_equalise", points_to=Outcome.NEEDS_CHARGE, weight="weight.rest_near_line",
                status="doubtful", remedy=StepKey.EQUALISE, reading_text=reading_text, limit_text=limit_text,
                text=say('cells.under_its_mates_an_equalising_charge_may', numbers=capital(_numbers(weak)), gap=fixed(gap, 3), since=since), places=tuple(weak),
            )  # fmt: skip
        numbers, behind = capital(_numbers(weak)), fixed(gap, 3)
        return finding(
            reading, rules, "gravity.spread", points_to=Outcome.DEAD_CELL, weight="weight.cells",
            reading_text=reading_text, limit_text=limit_text,
            places=tuple(weak),
            text=say('cells.under_its_mates_a_failing_cell', numbers=numbers, gap=behind)
            if few
            else say('cells.under_its_mates_recovery_is_unlikely', numbers=numbers, gap=behind, count=len(weak)),
        )  # fmt: skip
    named = (
        say("cells.under_its_mates", numbers=_numbers(weak), gap=fixed(gap, 3))
        if weak
        else say("cells.apart", spread=fixed(spread, 3))
    )
    if not charged:
        flat = under(high, rules.gravity.healthy.value, GRAVITY)
        return finding(
            reading, rules, "gravity.healthy", points_to=Outcome.NEEDS_CHARGE if flat or weak else None,
            weight="weight.rest_near_line" if flat or weak else None, reading_text=reading_text, limit_text=say('cells.charged_from', healthy=fixed(rules.gravity.healthy.value, 3)),
            places=tuple(weak),
            text=say('cells.gravity_charge_it_then_read_them_again', reading_text=reading_text, named=named)
            if flat or weak
            else say('cells.gravity_2', reading_text=reading_text, named=named),
        )  # fmt: skip
    if not over(high, rules.gravity.discharged.value, GRAVITY):
        return finding(
            reading, rules, "gravity.discharged", points_to=Outcome.WORN_OUT, weight="weight.cells",
            reading_text=reading_text, limit_text=say('cells.above_after_a_charge', discharged=fixed(rules.gravity.discharged.value, 3)),
            text=say('cells.gravity_after_a_full_charge_it_no_longer', reading_text=reading_text),
        )  # fmt: skip
    healthy = at_least(low, rules.gravity.healthy.value, GRAVITY)
    return finding(
        reading, rules, "gravity.healthy", points_to=Outcome.SOUND if healthy else Outcome.CANNOT_TELL,
        weight="weight.cells" if healthy else "weight.doubtful", status="counts" if healthy else "doubtful",
        remedy=None if healthy else StepKey.LOAD_TEST, reading_text=reading_text, limit_text=say('cells.healthy_from', healthy=fixed(rules.gravity.healthy.value, 3)),
        text=say('cells.gravity', reading_text=reading_text, since=since, named=named)
        if healthy
        else say('cells.gravity_but_not_all_of_it_reaches', reading_text=reading_text, since=since, named=named, healthy=fixed(rules.gravity.healthy.value, 3)),
    )  # fmt: skip


def cell_under_mates_before_the_charge(case: Case) -> Words | None:
    """The cell that lay far under its mates before the last charge, by its volts, in words; None where none did."""
    off = case.charge_off_at
    if off is None:
        return None
    least = case.rules.cells.remembered_volts.value
    for reading in reversed(case.all_of(Cells)):
        if reading.taken_at >= off or not reading.cell_volts:
            continue
        middle = median(reading.cell_volts)
        low = [place for place, volts in enumerate(reading.cell_volts) if at_least(middle - volts, least, VOLTS)]
        if low:
            return _numbers(low)
    return None
