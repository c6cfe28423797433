"""Whether a tester's figure counts: its settings against the label, and what it is held against."""

from typing import NamedTuple

from ..battery.label import Chemistry, RatingScale
from ..findings.kinds import StepKey
from ..readings import Clamped, ElectronicTester, TypeSet
from ..tables import scale_definitions
from ..units.compare import AMPS, CELSIUS, VOLTS, at_least, over, under
from ..words import NOTHING, Figure, Words, digits, fixed, say, word
from .charges import ChargeFacts
from .remembered import remembered, remembered_each
from .state_of_charge import volts_scale

TYPES_OF_CHEMISTRY: dict[Chemistry, frozenset[TypeSet]] = {
    Chemistry.FLOODED: frozenset({TypeSet.FLOODED}),
    Chemistry.HYBRID: frozenset({TypeSet.FLOODED}),
    Chemistry.CALCIUM: frozenset({TypeSet.FLOODED}),
    Chemistry.EFB: frozenset({TypeSet.EFB}),
    Chemistry.AGM: frozenset({TypeSet.AGM_FLAT, TypeSet.AGM_SPIRAL}),
    Chemistry.GEL: frozenset({TypeSet.GEL}),
}


SETTINGS_RULE = "settings_as_on_the_label"
"""What a wrong setting is held against: no house rule, tables/void-effects.csv says what each does."""


class VoidFigure(NamedTuple):
    """Why a tester's figure does not count, which effect it has, what to do, by which rule, and what that asks for."""

    why: Words
    effect: str | None
    remedy: StepKey
    rule: str = SETTINGS_RULE
    asks: Words = say("tester_settings.settings_as_on_the_label")


class Held(NamedTuple):
    """What a tester's figure is held against: the rating on the scale it was set to, and how far that may be off."""

    rated_amps: float
    scale: RatingScale
    relative_spread: float
    words: Words


def scale_of(case: ChargeFacts) -> RatingScale:
    """The scale the rating stands on; CCA when it is estimated."""
    return case.battery.rating.scale if case.battery.rating else RatingScale.CCA


@remembered_each
def compare_on_one_scale(reading: ElectronicTester, case: ChargeFacts) -> Held:
    """Measured and rated on one scale: the label's own where the tester was set to it, else converted with the spread."""
    assert case.rated is not None
    scale, rating = scale_of(case), case.battery.rating
    spread = 0.0 if case.rated.firm else case.rated.relative_spread
    if reading.scale_set is scale:
        amps = rating.amps if rating else case.rated.amps
        return Held(amps, scale, spread, say("figures.amps_scale", amps=fixed(amps, 0), scale=scale.value))
    to = scale_definitions()[reading.scale_set.value]
    amps = case.rated.amps * to.amps_per_sae_cca_amp
    converted = case.rated.relative_spread + to.relative_spread
    label = case.rated.words
    return Held(
        amps,
        reading.scale_set,
        converted,
        say(
            "tester_settings.about",
            amps=fixed(amps, 0),
            scale_set=reading.scale_set.value,
            label=label,
            converted=fixed(converted * 100, 0),
        ),
    )


def measured_amps(reading: ElectronicTester, held: Held, case: ChargeFacts) -> tuple[float, float] | None:
    """The figure on the tester's scale and how far it may be off besides: shown, or worked out of its resistance."""
    if reading.measured_cca_amps is not None:
        return reading.measured_cca_amps, 0.0
    if reading.resistance_mohm is None:
        return None
    cca = good_mohm_amps(case) / reading.resistance_mohm
    return cca * scale_definitions()[held.scale.value].amps_per_sae_cca_amp, case.rules.tester.mohm_spread_ratio.value


def good_mohm_amps(case: ChargeFacts) -> float:
    """mΩ x CCA of a good battery, as testers show resistance."""
    return case.rules.tester.mohm_cca.value * volts_scale(case.battery.nominal_volts)


@remembered_each
def why_void(reading: ElectronicTester, case: ChargeFacts) -> VoidFigure | None:
    """The first reason this figure does not count, or None when it does.

    Studs, cable clamps and corrosion only take away: a figure that passes through them has passed (`reads_low`).
    """
    chemistry = case.battery.chemistry
    if reading.charge_setting == "after" and case.charge_near(reading) == "low":
        return VoidFigure(
            say('tester_settings.tester_was_told_the_battery_was_charged'), None, StepKey.CHARGE_AND_RETEST,
            "rest.recharge_line_volts", say('tester_settings.charged_from_v', recharge_line_volts=fixed(case.recharge_line_volts, 2)),
        )  # fmt: skip
    if case.type_is_read and reading.type_set not in TYPES_OF_CHEMISTRY[chemistry]:
        set_to = say(f"type_set.{reading.type_set.value}")
        return VoidFigure(
            say("tester_settings.tester_was_set_to_the_label_says", set_to=set_to, chemistry=chemistry.words),
            "wrong_type",
            StepKey.TESTER_AGAIN,
        )
    scale = scale_of(case)
    if (
        reading.scale_set is not scale
        and scale.value in case.rules_for(reading).tester.scales.value
        and case.battery.rating
    ):
        return VoidFigure(
            say(
                "tester_settings.tester_was_set_to_the_label_is_in",
                scale_set=reading.scale_set.value,
                scale=scale.value,
            ),
            "wrong_scale",
            StepKey.TESTER_AGAIN,
        )
    if reading.scale_set.value not in scale_definitions():
        return VoidFigure(
            say("tester_settings.is_a_type_code_not_a_scale_of_amps", scale_set=reading.scale_set.value),
            "wrong_scale",
            StepKey.TESTER_AGAIN,
        )
    if case.rated is None and reading.message is None:
        limit = say(
            "tester_settings.replace_below_of_rated",
            replace_below_ratio=fixed(case.rules.tester.replace_below_ratio.value * 100, 0),
        )
        return VoidFigure(
            say("tester_settings.no_rated_figure_to_hold_it_against"),
            None,
            StepKey.READ_LABEL,
            "tester.replace_below_ratio",
            limit,
        )
    cold = case.temperature_at(reading)
    if cold is not None and under(cold, case.rules.tester.void_c.value, CELSIUS):
        why = say("tester_settings.at_c_no_tester_can_be_trusted_warm_it", cold=fixed(cold, 0))
        warmer = say("tester_settings.read_from_c_up", void_c=fixed(case.rules.tester.void_c.value, 0))
        return VoidFigure(why, None, StepKey.TESTER_AGAIN, "tester.void_c", warmer)
    apart = _volts_apart(reading, case)
    if apart is not None or case.rated is None:
        return apart
    held = compare_on_one_scale(reading, case)
    measured = measured_amps(reading, held, case)
    if measured and case.rated.firm and over(measured[0], held.rated_amps * case.rules.tester.absurd_ratio.value, AMPS):
        return VoidFigure(
            say('tester_settings.more_than_double_the_rating_typing_error'), None, StepKey.TESTER_AGAIN,
            "tester.absurd_ratio", say('tester_settings.at_most', rated_amps=fixed(held.rated_amps * case.rules.tester.absurd_ratio.value, 0), scale=held.scale.value),
        )  # fmt: skip
    return None


def _volts_apart(reading: ElectronicTester, case: ChargeFacts) -> VoidFigure | None:
    """Whether the tester's own volts and a meter's lie further apart than two tools on the same posts do; asked about again they are both read."""
    if not _lie_apart(reading, case):
        return None
    rest, limit = case.rests_near(reading)[-1], case.rules.tester.volts_apart.value
    asked = any(
        other.taken_at < reading.taken_at and _lie_apart(other, case) for other in case.all_of(ElectronicTester)
    )
    why = say(
        "tester_settings.the_tester_showed_v_the_meter_v",
        volts=fixed(reading.volts or 0.0, 2),
        rest_volts=fixed(rest.volts, 2),
    )
    return VoidFigure(
        why, None, StepKey.MEASURE_AGAIN if asked else StepKey.TESTER_AGAIN, "tester.volts_apart",
        say("tester_settings.no_more_than_v_apart", limit=digits(limit)),
    )  # fmt: skip


def _lie_apart(reading: ElectronicTester, case: ChargeFacts) -> bool:
    near = case.rests_near(reading)
    if reading.volts is None or not near:
        return False
    limit = case.rules.tester.volts_apart.value * volts_scale(case.battery.nominal_volts)
    return at_least(abs(reading.volts - near[-1].volts), limit, VOLTS)


@remembered_each
def reads_low(reading: ElectronicTester, case: ChargeFacts) -> VoidFigure | None:
    """Why a failing figure does not count though a passing one does: what only takes away from a reading."""
    if reading.clamped is Clamped.STUDS:
        return VoidFigure(
            say("tester_settings.clamped_on_the_threaded_studs_not_the_lead"), "studs", StepKey.TESTER_AGAIN
        )
    if reading.clamped is Clamped.CABLE_CLAMPS:
        return VoidFigure(
            say("tester_settings.clamped_on_the_cable_clamps_not_the_lead"), "cable_clamps", StepKey.TESTER_AGAIN
        )
    if reading.posts_clean is False:
        return VoidFigure(say("common.read_through_corroded_posts"), "corroded", StepKey.CLEAN_POSTS)
    return None


SETTINGS = ("type_set", "scale_set", "clamped", "posts_clean", "in_vehicle", "charge_setting")


def one_setting_apart(reading: ElectronicTester, case: ChargeFacts) -> Words:
    """What an earlier reading of the same battery showed that differs in one setting only, in figures."""
    return _apart(case).get(id(reading), NOTHING)


@remembered
def _apart(case: ChargeFacts) -> dict[int, Words]:
    """The same for every reading at once: of each way of setting it only the last before can be meant."""
    result: dict[int, Words] = {}
    last: dict[tuple[object, ...], ElectronicTester] = {}
    charges = 0
    for reading in case.all_of(ElectronicTester):
        if case.charges_off_before(reading) != charges:
            charges = case.charges_off_before(reading)
            last.clear()
        if reading.measured_cca_amps is None:
            continue
        settings = tuple(getattr(reading, name) for name in SETTINGS)
        for were, other in sorted(last.items(), key=lambda reading: reading[1].taken_at, reverse=True):
            differ = [place for place, (was, now) in enumerate(zip(were, settings, strict=True)) if was != now]
            if len(differ) == 1 and other.taken_at < reading.taken_at and other.measured_cca_amps:
                name = say(f"tester_setting.{SETTINGS[differ[0]]}")
                was, now = _setting(were[differ[0]]), _setting(settings[differ[0]])
                change = (reading.measured_cca_amps / other.measured_cca_amps - 1) * 100
                result[id(reading)] = say(
                    "tester_settings.against_with_instead_of",
                    change_pct=Figure(f"{change:+.0f}"),
                    measured_cca_amps=fixed(other.measured_cca_amps, 0),
                    setting=name,
                    was=was,
                    now=now,
                )
                break
        last[settings] = reading
    return result


def _setting(value: object) -> Words:
    return (
        say("tester_settings.not_said")
        if value is None
        else word(
            str(getattr(value, "value", value)).lower()
            if isinstance(value, bool)
            else str(getattr(value, "value", value))
        )
    )
