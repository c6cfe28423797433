"""Who says what is asked: the car's list, the old label, a code, the tape, the owner, the check; side by side, and which wins.

Every source is a claim: a part of a requirement, or silence. Where two differ, the winner of each line is said with why.
"""

from collections.abc import Callable, Sequence
from typing import Any, NamedTuple

from ..battery.label import CHEMISTRY_RANK, Chemistry, RatingScale, Use
from ..house.rules import HouseRules
from ..tables import footprints
from ..units.compare import AMPS, rounded
from ..words import NOTHING, Words, as_written, digits, fixed, in_a_row, say, say_from, word
from .claims import Claim, Line, Merged, Need, SourceKey
from .requirement import Measured, Requirement


class _Told(NamedTuple):
    """One claim's word on one thing: its value, the words, and how strict it is."""

    key: SourceKey
    value: Any
    words: Words
    strict: float


def merge(claims: Sequence[Claim], rules: HouseRules) -> Merged:
    """What all of them ask together. The first of `SourceKey` wins the size; ratings go by house rule; what is stricter
    wins where a battery would be harmed or the car left standing."""
    ranked = sorted(claims, key=lambda claim: list(SourceKey).index(claim.key))
    by_car = rules.match.rating_asked.value == "car"
    lines: list[Line] = []

    def decide(about: str, of: Callable[[Claim], _Told | None], first: bool, why_first: str, why_strict: str) -> Any:
        answers = [result for claim in ranked if (result := of(claim)) is not None]
        if not answers:
            return None
        strictest = max(answers, key=lambda claim: claim.strict)
        winner = answers[0] if first else strictest
        differ = any(_differs(about, answer.value, winner.value) for answer in answers)
        lines.append(
            Line(
                about=about, says={answer.key: answer.words for answer in answers}, wins=winner.key, differ=differ,
                strictest=strictest.key if differ and about not in NOT_STRICTER else None,
                why=say_from(why_first if first else why_strict, lambda: {"winner": TITLES[winner.key]}) if differ else NOTHING,
            )
        )  # fmt: skip
        return winner.value

    group = decide("size", _size, True, "sources.first_what_differs_is_shown", "")
    taped = [claim for claim in ranked if claim.measured and (claim.key is not SourceKey.CODE or not group)]
    measured = taped[0].measured if taped else None
    if measured is not None:
        lines[:] = _with_tape(lines, taped[0].key, measured, group, rules)
    side = decide("positive", _side, True, "sources.first_look_at_the_cables", "")
    rated = decide(
        "rating",
        _rating,
        by_car,
        "sources.at_least_more_is_fine",
        "sources.the_higher_one_by_house_rule",
    )
    ah = decide("capacity", _capacity, by_car, "sources.at_least", "sources.the_higher_one_by_house_rule")
    minutes = decide("reserve", _reserve, by_car, "sources.at_least", "sources.the_higher_one_by_house_rule")
    listed = any(claim.key is SourceKey.CAR for claim in ranked)
    chemistry = decide("chemistry", lambda claim: _chemistry(claim, listed), False, "", "sources.never_down_the_ladder")
    stop_start = bool(
        decide("stop-start", _flag("stop_start", word("stop_start")), False, "", "sources.one_that_says_so_is_enough")
    )
    vent = bool(
        decide(
            "vent tube",
            _flag("vent_tube", say("sources.needs_a_vent_tube")),
            False,
            "",
            "sources.one_that_says_so_is_enough",
        )
    )
    no_agm = bool(
        decide(
            "no AGM",
            _flag("no_agm", say("sources.no_agm_hot_bay_or_old_regulator")),
            False,
            "",
            "sources.one_is_enough",
        )
    )
    stays = bool(
        decide(
            "charging",
            _flag("flooded_stays", say("sources.charges_flooded_types_alone")),
            False,
            "",
            "sources.one_is_enough",
        )
    )
    running = decide("ran at", _running, False, "", "sources.what_was_measured")
    use = decide("use", _use, True, "sources.says_how_it_will_be_used", "")
    if no_agm and chemistry is Chemistry.AGM:
        chemistry = _highest_but_agm(ranked)
    if stop_start and (chemistry is None or CHEMISTRY_RANK.get(chemistry, 1) < CHEMISTRY_RANK[Chemistry.EFB]):
        chemistry = Chemistry.EFB
    amps, scale = rated or (0.0, RatingScale.CCA)
    needs = {need for claim in ranked for need in claim.needs}
    ratios = rules.match.need_ratios.value
    if Need.WINTER in needs:
        amps *= ratios["winter"]
    more = [ratios[need.value] for need in (Need.CONSUMERS, Need.STANDING) if need in needs]
    if more:
        # where nobody says Ah, as many as a battery of that rating usually has
        ah = (ah or amps / rules.estimate.cca_per_ah.value) * max(more)
    if needs - {Need.TAXI}:
        words = {
            source.key: in_a_row((_need_words(need, rules) for need in source.needs), ", ")
            for source in ranked
            if source.needs
        }
        lines.append(Line(about="needs", says=words, wins=next(iter(words)), differ=False))
    if not group and measured is None:
        return Merged(requirement=None, lines=tuple(lines))
    # posts and hold-down are those of what wins the size, or of what was measured
    sized = next((claim.key for claim in ranked if claim.group_code == group), None) if group else None
    of_the_place = [
        claim for claim in ranked if claim.key in {sized, SourceKey.TAPE, SourceKey.TYPED} or claim in taped[:1]
    ]
    also = {code for claim in ranked if claim.group_code == group for code in claim.also_codes}
    return Merged(
        requirement=Requirement(
            group_code=group or "",
            also_codes=tuple(sorted(also)),
            measured=measured,
            nominal_volts=next((claim.nominal_volts for claim in ranked if claim.nominal_volts), 12),
            positive_side=side,
            post=_first(of_the_place, "post"),
            ledge=_first(of_the_place, "ledge"),
            spare_cable_mm=_first(ranked, "spare_cable_mm") or 0,
            min_cca_amps=rounded(amps, AMPS),
            cca_scale=scale,
            min_capacity_ah=ah,
            min_reserve_minutes=minutes,
            chemistry=chemistry or Chemistry.FLOODED,
            stop_start=stop_start,
            vent_tube=vent,
            vent_side=_first(ranked, "vent_side"),
            no_agm=no_agm,
            flooded_stays=stays,
            running_volts=running,
            use=Use.TAXI if Need.TAXI in needs else use or Use.PRIVATE,
            source=in_a_row(
                (claim.title for claim in ranked if claim.key not in {SourceKey.OWNER, SourceKey.CHECK}), ", "
            ),
        ),
        lines=tuple(lines),
    )


TITLES = {
    SourceKey.TYPED: say('sources.what_is_typed'), SourceKey.TAPE: say('sources.the_tape'), SourceKey.CAR: say('sources.the_cars_list'),
    SourceKey.CODE: say('sources.the_code'), SourceKey.LABEL: say('sources.the_old_label'), SourceKey.OWNER: say('common.the_owner'), SourceKey.CHECK: say('common.the_check'),
}  # fmt: skip
NOT_STRICTER = frozenset({"size", "positive", "use"})
"""Lines on which nobody is stricter, only different."""


def _differs(about: str, one: Any, winner: Any) -> bool:
    if about == "size":
        return not _same_case(one, winner)
    if about == "rating":
        return bool(rounded(one[0], AMPS) != rounded(winner[0], AMPS))
    return bool(one != winner)


def _same_case(words: str, other: str) -> bool:
    table = footprints()
    first, second = table.get(words), table.get(other)
    return words == other or bool(first and second and (first.same_as == other or second.same_as == words))


def _with_tape(
    lines: list[Line], key: SourceKey, measured: Measured, group: str | None, rules: HouseRules
) -> list[Line]:
    """The line of the size with what the tape says: no name, but what does not go in does not fit."""
    words = say(
        "sources.by_by_mm",
        length_mm=digits(measured.length_mm),
        width_mm=digits(measured.width_mm),
        height_mm=digits(measured.height_mm),
    )
    tape = {key: words}
    if not group:
        return [*lines, Line(about="size", says=tape, wins=key, differ=False)]
    tolerance = rules.match.footprint_tolerance_mm.value if measured.tolerance_mm is None else measured.tolerance_mm
    size = footprints().get(group)
    over = size is not None and (
        size.length_mm > measured.length_mm + tolerance
        or size.width_mm > measured.width_mm + tolerance
        or size.height_mm > measured.height_mm + tolerance
    )
    why = say("sources.size_does_not_go_into_what_was_measured", group=group) if over else NOTHING
    return [
        line.model_copy(update={"says": {**line.says, **tape}, "differ": line.differ or over, "why": why or line.why})
        if line.about == "size"
        else line
        for line in lines
    ]


def _size(claim: Claim) -> _Told | None:
    return _Told(claim.key, claim.group_code, as_written(claim.group_code), 0) if claim.group_code else None


def _side(claim: Claim) -> _Told | None:
    size = footprints().get(claim.group_code)
    taped = claim.measured.positive_side if claim.measured else None
    side = taped or claim.positive_side or (size.positive_side if size else None)
    return _Told(claim.key, side, word(side), 0) if side else None


def _rating(claim: Claim) -> _Told | None:
    if not claim.cca_amps:
        return None
    return _Told(
        claim.key,
        (claim.cca_amps, claim.cca_scale),
        say("figures.cca_amps_cca", cca_amps=fixed(claim.cca_amps, 0)),
        claim.cca_amps,
    )


def _capacity(claim: Claim) -> _Told | None:
    ah = claim.capacity_ah
    return _Told(claim.key, ah, say("figures.ah_ah", ah=digits(ah)), ah) if ah else None


def _reserve(claim: Claim) -> _Told | None:
    minutes = claim.reserve_minutes
    return _Told(claim.key, minutes, say("common.min", minutes=digits(minutes)), minutes) if minutes else None


def _chemistry(claim: Claim, listed: bool) -> _Told | None:
    """Gel asks for gel only where nobody says otherwise; a label is heard beside the car's list where it says AGM."""
    has = claim.chemistry
    if has is None:
        return None
    beside = claim.key is SourceKey.LABEL and listed and has is not Chemistry.AGM
    return _Told(claim.key, has, has.words, -1 if beside else CHEMISTRY_RANK.get(has, -0.5))


def _highest_but_agm(claims: Sequence[Claim]) -> Chemistry:
    others = [claim.chemistry for claim in claims if claim.chemistry and claim.chemistry is not Chemistry.AGM]
    return max(others, key=lambda store: CHEMISTRY_RANK.get(store, 0), default=Chemistry.FLOODED)


def _flag(name: str, words: Words) -> Callable[[Claim], _Told | None]:
    def of(claim: Claim) -> _Told | None:
        value = getattr(claim, name)
        return _Told(claim.key, value, words if value else word("no"), float(value)) if value else None

    return of


def _running(claim: Claim) -> _Told | None:
    volts = claim.running_volts
    return _Told(claim.key, volts, say("sources.v_running_too_much", volts=fixed(volts, 1)), volts) if volts else None


def _use(claim: Claim) -> _Told | None:
    use = Use.TAXI if Need.TAXI in claim.needs else claim.use
    return _Told(claim.key, use, word(use.value), 0) if use else None


def _need_words(need: Need, rules: HouseRules) -> Words:
    if need is Need.TAXI:
        return word("taxi")
    more = say("sources.more", need_ratios=fixed((rules.match.need_ratios.value[need.value] - 1) * 100, 0))
    return {
        Need.WINTER: say("sources.hard_winters_cca", more=more),
        Need.CONSUMERS: say("sources.many_consumers_ah", more=more),
        Need.STANDING: say("sources.stands_long_ah", more=more),
    }[need]


def _first(claims: Sequence[Claim], name: str) -> Any:
    return next((value for claim in claims if (value := getattr(claim, name)) is not None), None)


def too_high_running_volts(volts: Sequence[float], rules: HouseRules) -> float | None:
    """The highest of what a car ran at, where it is over what it may; None where it is well, or nobody measured."""
    highest = max(volts, default=None)
    return highest if highest is not None and highest > rules.car.running_high_volts.value else None
