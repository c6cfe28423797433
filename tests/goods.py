"""Goods for tests: what the rules of match and stock lead to, and random requirements and items."""

from datetime import date, timedelta
from typing import Any

from vane_check.core.battery.label import Chemistry, RatingScale
from vane_check.core.goods.pieces import PieceFacts, state_of
from vane_check.core.goods.returns import papers_with_own_call, return_until
from vane_check.core.house.rules import HouseRules
from vane_check.core.matching import Candidate, Requirement, match
from vane_check.core.matching.claims import Claim, Need, SourceKey
from vane_check.core.matching.sources import merge
from vane_check.core.matching.upgrade import upgrades

TODAY = date(2026, 3, 20)


def candidate(**more: Any) -> Candidate:
    body = {
        "item_id": 1, "line": "Plain", "name": "Plain 48", "group_code": "48", "chemistry": "efb", "cca_amps": 700,
        "in_stock": 2, "price_cents": 10000, **more,
    }  # fmt: skip
    return Candidate.model_validate(body)


def piece(**more: Any) -> PieceFacts:
    """A flooded piece that came 100 days ago and was read a month ago, full."""
    body = {
        "chemistry": "flooded", "arrived_on": TODAY - timedelta(days=100), "last_volts": 12.66,
        "last_volts_on": TODAY - timedelta(days=30), "price_cents": 10000, **more,
    }  # fmt: skip
    return PieceFacts.model_validate(body)


def goods_figures(rules: HouseRules) -> list[Any]:
    """What some offers, some pieces and some sources come to under some rules, without the words."""
    asked = Requirement(
        group_code="48",
        min_cca_amps=600,
        min_capacity_ah=70,
        min_reserve_minutes=120,
        spare_cable_mm=200,
        positive_side="left",
    )
    offered = [
        candidate(item_id=number, name=f"{number}", chemistry=chemistry, capacity_ah_20h=ah, reserve_minutes=ah * 1.75, price_cents=9000 + number)
        for number, (chemistry, ah) in enumerate([("flooded", 70), ("efb", 67.3), ("agm", 62), ("calcium", 55), ("gel", 40), ("hybrid", 66.6)])
    ]  # fmt: skip
    told: list[Any] = [
        [one.candidate.item_id, one.fit, [point.stands for point in one.points]] for one in match(asked, offered, rules)
    ]
    claims = [
        Claim(key=SourceKey.CAR, title="car", group_code="47", cca_amps=500, capacity_ah=60, reserve_minutes=100),
        Claim(key=SourceKey.LABEL, title="label", group_code="47", cca_amps=560, capacity_ah=66, reserve_minutes=110),
    ]
    for need in (Need.WINTER, Need.CONSUMERS, Need.STANDING):
        owner = Claim(key=SourceKey.OWNER, title="owner", needs=(need,))
        found = merge([*claims, owner], rules).requirement
        assert found is not None
        told.append((found.min_cca_amps, found.min_capacity_ah, found.min_reserve_minutes))
    told += [return_until(TODAY, None, rules), sorted(papers_with_own_call(rules))]
    for chemistry in Chemistry:
        bases = [
            candidate(item_id=1, chemistry="flooded"),
            candidate(item_id=2, chemistry=chemistry, price_cents=20000),
        ]
        told.append([one.sentences for one in upgrades(bases, rules, 5)])
        for days in (20, 61, 95, 130, 200, 300, 420):
            facts = piece(
                chemistry=chemistry,
                last_volts=13.0,
                last_volts_on=TODAY - timedelta(days=days),
                arrived_on=TODAY - timedelta(days=days),
            )
            state = state_of(facts, TODAY, rules)
            told.append((state.due, state.due_on, state.reduced, state.refused, state.price_cents))
    for months in (3, 10, 30, 80):
        dry = piece(dry_charged=True, made_on=TODAY - timedelta(days=months * 30), last_volts=None, last_volts_on=None)
        told.append((state_of(dry, TODAY, rules).due, state_of(dry, TODAY, rules).price_cents))
    return told


SCALES = [scale for scale in RatingScale if scale is not RatingScale.JIS]
