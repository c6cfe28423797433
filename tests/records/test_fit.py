"""The fit as the database decides it against the fit as the core says it: the same verdict on random pairs."""

import random
import unittest
from typing import Any

from sqlalchemy import delete, text

from tests.build import RULES
from tests.goods import SCALES
from tests.house import database, sessions
from vane_check.core.battery.label import Chemistry, Rating, Use
from vane_check.core.house.rules import changed_rules
from vane_check.core.matching import Candidate, Fit, Measured, Requirement, bounds_of, fit_of, points_of, space_of
from vane_check.core.tables import footprints
from vane_check.records import fitting_items as fit
from vane_check.records.base import SAME_PLANS, StoreSession
from vane_check.records.models import CatalogueItem, StockPiece, TermsRow

PAIRS, ITEMS = 5000, 100
CODES = sorted(footprints())
NEIGHBOURS = (
    "47",
    "48",
    "LN2",
    "LN3",
    "LB3",
    "40R",
    "94R",
    "24",
    "24F",
    "D26L",
    "D26R",
    "35",
    "51R",
    "B24L",
    "34",
    "78",
)


class Fitting(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.sessions = sessions(database())

    def setUp(self) -> None:
        session = self.sessions()
        assert isinstance(session, StoreSession)
        session.bind_to(1)
        self.addCleanup(session.close)
        self.session = session
        self.chance = random.Random(1126)

    def item(self, number: int) -> CatalogueItem:
        chance = self.chance
        size = footprints()[chance.choice(NEIGHBOURS if chance.random() < 0.8 else CODES)]
        rating = Rating(amps=chance.randrange(300, 1000, 10), scale=chance.choice(SCALES))
        own = chance.random() < 0.4
        vent = chance.random() < 0.5
        code = "" if own and chance.random() < 0.3 else size.code
        return CatalogueItem(
            line=chance.choice(("Plain", "Best")), name=f"random {number}", group_code=code,
            same_as=size.same_as if code else "", length_mm=size.length_mm + (chance.randrange(-30, 31) if own else 0),
            width_mm=size.width_mm + (chance.randrange(-6, 7) if own else 0),
            height_mm=size.height_mm + (chance.randrange(-30, 31) if own else 0), nominal_volts=size.nominal_volts,
            positive_side=size.positive_side if chance.random() < 0.8 else chance.choice(("left", "right")),
            post=size.post if chance.random() < 0.8 else chance.choice(("top", "pencil", "stud")),
            ledge=chance.choice(("none", "long", "all")), chemistry=chance.choice(list(Chemistry)).value,
            cca_amps=round(rating.cca_amps, 1), rated_amps=rating.amps, rated_scale=rating.scale.value,
            capacity_ah_20h=chance.choice((None, chance.randrange(40, 110))), reserve_minutes=chance.choice((None, chance.randrange(60, 200))),
            vent_tube=vent, vent_side=chance.choice((None, "left", "right")) if vent else None, price_cents=chance.randrange(5000, 40000),
        )  # fmt: skip

    def requirement(self) -> Requirement:
        chance = self.chance
        code = chance.choice(NEIGHBOURS)
        size = footprints()[code]
        taped = Measured(
            of=chance.choice(("tray", "old")), length_mm=size.length_mm + chance.randrange(-10, 20),
            width_mm=size.width_mm + chance.randrange(-3, 8), height_mm=size.height_mm + chance.randrange(-10, 40),
            positive_side=chance.choice((None, "left", "right")), post=chance.choice((None, size.post)),
            ledge=chance.choice((None, "none", "long", "all")), tolerance_mm=chance.choice((None, 0, 3, 12)),
        )  # fmt: skip
        how = chance.random()

        def seldom(value: Any, otherwise: Any = None, share: float = 0.25) -> Any:
            return value if chance.random() < share else otherwise

        return Requirement(
            group_code="" if how < 0.25 else code, measured=taped if how < 0.5 else None, also_codes=seldom((chance.choice(NEIGHBOURS),), ()),
            positive_side=seldom(chance.choice(("left", "right"))), ledge=seldom("all"), spare_cable_mm=seldom(chance.choice((120, 220)), 0),
            min_cca_amps=chance.randrange(200, 700), cca_scale=chance.choice(SCALES), min_capacity_ah=seldom(chance.uniform(40, 100)),
            min_reserve_minutes=seldom(chance.uniform(60, 180)), chemistry=seldom(chance.choice(list(Chemistry)), Chemistry.FLOODED),
            stop_start=chance.random() < 0.3, vent_tube=seldom(True, False), vent_side=seldom(chance.choice(("left", "right")), None, 0.7),
            no_agm=seldom(True, False), flooded_stays=seldom(True, False, 0.1), running_volts=seldom(15.4, None, 0.1),
            use=seldom(Use.TAXI, Use.PRIVATE, 0.5),
        )  # fmt: skip

    def test_the_same_verdict_on_five_thousand_random_pairs(self) -> None:
        rows = [self.item(number) for number in range(ITEMS)]
        self.session.execute(delete(TermsRow).where(TermsRow.line == "Best"))
        terms = TermsRow(
            line="Best", free_months=1, pro_rata_months=0, date_code_allowance_months=0, excluded_uses=["taxi"]
        )
        self.session.add_all([*rows, terms])
        self.session.flush()
        ours = {row.id for row in rows}
        names = {column.name for column in CatalogueItem.__table__.columns} & Candidate.model_fields.keys()
        rules = [RULES, changed_rules(RULES, {"match.spacer_max_mm": 3, "match.footprint_tolerance_mm": 8, "match.post_inset_mm": 60, "match.ah_short_pct": 0, "match.ah_short_most_pct": 7}, "test")]  # fmt: skip
        seen: dict[Fit, int] = dict.fromkeys(Fit, 0)
        for turn in range(PAIRS // ITEMS):
            asked, house = self.requirement(), rules[turn % 2]
            found, _ = fit.matching_items(self.session, bounds_of(asked, house), 100_000, 0)
            said = {one.item["id"]: one for one in found if one.item["id"] in ours}
            space = space_of(asked, house)
            for row in rows:
                told = {name: getattr(row, name) for name in names}
                excluded = (Use.TAXI,) if row.line == "Best" else ()
                # an own size has no footprint to fill in: what the row says is all there is
                candidate = Candidate.model_validate(
                    {**told, "item_id": row.id, "excluded_uses": excluded, "in_stock": 0}
                )
                verdict = fit_of(tuple(points_of(asked, space, candidate, house)))
                seen[verdict] += 1
                one = said.get(row.id)
                by_sql = Fit.REJECTED if one is None else Fit.NEAR if one.near else Fit.EXACT
                self.assertEqual(
                    by_sql,
                    verdict,
                    f"{asked} {told} {[point.text for point in points_of(asked, space, candidate, house)]}",
                )
        self.assertGreater(min(seen.values()), 10, seen)

    def test_edges_of_what_the_database_decides(self) -> None:
        """A 24 is 260 mm long, 180 from post to post; a 48 is 278 x 175 x 190. Figures as in tests/core/test_what_changes.py."""

        def fits(code: str, **asked: Any) -> tuple[bool, bool]:
            """Whether any flooded item of a size fits, and whether without a change."""
            requirement = Requirement.model_validate({"min_cca_amps": 200, **asked})
            found, _ = fit.matching_items(self.session, bounds_of(requirement, RULES), 100_000, 0)
            ours = [one for one in found if one.item["group_code"] == code]
            return bool(ours), any(not one.near for one in ours)

        tray = {"length_mm": 278, "width_mm": 175, "height_mm": 190}
        for what, code, asked, said in (
            ("cables reach", "24", {"group_code": "24F", "spare_cable_mm": 180}, (True, False)),
            ("a millimetre less", "24", {"group_code": "24F", "spare_cable_mm": 179}, (False, False)),
            ("five shorter", "48", {"measured": {**tray, "length_mm": 283}}, (True, True)),
            ("six shorter", "48", {"measured": {**tray, "length_mm": 284}}, (True, False)),
            ("a spacer's worth", "48", {"measured": {**tray, "length_mm": 303}}, (True, False)),
            ("more than that", "48", {"measured": {**tray, "length_mm": 304}}, (False, False)),
            ("five too long", "48", {"measured": {**tray, "length_mm": 273}}, (True, True)),
            ("six too long", "48", {"measured": {**tray, "length_mm": 272}}, (False, False)),
            ("a high tray", "48", {"measured": {**tray, "height_mm": 260}}, (True, False)),
            ("its own name", "LN3", {"group_code": "48"}, (True, True)),
            ("thin posts", "35", {"group_code": "35", "post": "pencil"}, (False, False)),
        ):
            with self.subTest(what):
                self.assertEqual(fits(code, **asked), said)

    def test_what_is_left_out_by_terms_comes_last_and_stock_before_price(self) -> None:
        asked = Requirement(group_code="48", min_cca_amps=300, use=Use.TAXI)
        found, count = fit.matching_items(self.session, bounds_of(asked, RULES), 1000, 0)
        self.assertEqual(count, len(found))
        places = [(one.excluded, one.near) for one in found]
        self.assertEqual(places, sorted(places))
        self.assertIn(True, [one.excluded for one in found])
        first = [one for one in found if not one.excluded and not one.near]
        order = [(not one.pieces, one.item["price_cents"], one.item["name"]) for one in first]
        self.assertEqual(order, sorted(order))
        self.assertTrue(all(one.supplier for one in found))
        stocked = next(one for one in found if len(one.pieces) > 1)
        self.assertEqual([one.arrived_on for one in stocked.pieces], sorted(one.arrived_on for one in stocked.pieces))

    def test_an_item_measured_anew_is_found_in_its_new_box_and_not_in_the_old(self) -> None:
        item = self.session.query(CatalogueItem).filter_by(group_code="48").first()
        assert item is not None
        asked = {"of": "tray", "length_mm": 401, "width_mm": 152, "height_mm": 160, "positive_side": item.positive_side}
        bounds = bounds_of(Requirement(measured=Measured.model_validate(asked), min_cca_amps=100), RULES)
        self.assertEqual(fit.matching_items(self.session, bounds, 5, 0), ([], 0))
        for length_mm in (399, 400):
            item.length_mm, item.width_mm, item.height_mm = length_mm, 150, 158
            self.session.flush()
            found, count = fit.matching_items(self.session, bounds, 5, 0)
            self.assertEqual(([one.item["id"] for one in found], count), ([item.id], 1))
        old = bounds_of(
            Requirement(measured=Measured.model_validate({**asked, "length_mm": 280}), min_cca_amps=100), RULES
        )
        self.assertNotIn(item.id, [one.item["id"] for one in fit.matching_items(self.session, old, 1000, 0)[0]])

    def test_each_outside_stands_once_among_the_boxes_and_none_is_missing(self) -> None:
        box = "store_id, nominal_volts, length_mm, width_mm, height_mm, positive_side, group_code, post, ledge, chemistry, vent_tube"
        missing = self.session.execute(
            text(f"select {box} from catalogue_items except select {box} from item_boxes")
        ).all()
        self.assertEqual(missing, [])
        twice = self.session.execute(text(f"select {box} from item_boxes group by {box} having count(*) > 1")).all()
        self.assertEqual(twice, [])

    def test_the_plan_is_one_for_all_figures_and_says_the_same(self) -> None:
        bounds = bounds_of(Requirement(group_code="48", min_cca_amps=600, use=Use.TAXI), RULES)
        found = fit.matching_items(self.session, bounds, 15, 5)
        session = self.sessions()
        assert isinstance(session, StoreSession)
        session.info[SAME_PLANS] = True
        session.bind_to(1)
        self.addCleanup(session.close)
        for _ in range(7):  # from the sixth on it is prepared
            self.assertEqual(fit.matching_items(session, bounds, 15, 5), found)
        self.assertEqual(session.execute(text("show plan_cache_mode")).scalar(), "force_generic_plan")
        self.assertEqual(self.session.execute(text("show plan_cache_mode")).scalar(), "auto")

    def test_reasons_are_counted_and_add_up(self) -> None:
        bounds = bounds_of(Requirement(group_code="48", min_cca_amps=680, chemistry=Chemistry.AGM), RULES)
        reasons, total = fit.why_not(self.session, bounds)
        _, fits = fit.matching_items(self.session, bounds, 1, 0)
        every = self.session.query(CatalogueItem).count()
        self.assertEqual(total + fits, every)
        self.assertEqual({one.about for one in reasons}, {"volts", "size", "positive", "post", "rating", "chemistry"})
        self.assertTrue(all(0 < one.items <= total for one in reasons))

    def test_near_misses_are_of_the_place_and_do_not_fit(self) -> None:
        asked = Requirement(group_code="48", min_cca_amps=680, chemistry=Chemistry.AGM)
        bounds = bounds_of(asked, RULES)
        found, _ = fit.matching_items(self.session, bounds, 10_000, 6)
        misses = [one for one in found if not one.fits]
        self.assertEqual(len(misses), 6)
        self.assertEqual({one.item["chemistry"] for one in misses}, {"agm"})  # of the type asked first
        self.assertFalse({one.item["id"] for one in found if one.fits} & {one.item["id"] for one in misses})

    def test_pieces_are_counted_with_every_write(self) -> None:
        def stands(item_id: int) -> int:
            self.session.expire_all()
            return self.session.get_one(CatalogueItem, item_id).in_stock

        row = self.item(9999)
        self.session.add(row)
        self.session.flush()
        pieces: list[Any] = [StockPiece(item_id=row.id, arrived_on=RULES.holds_from) for _ in range(3)]
        self.session.add_all(pieces)
        self.session.flush()
        self.assertEqual(stands(row.id), 3)
        pieces[0].sold_on = RULES.holds_from
        pieces[1].mark = "refused"
        self.session.flush()
        self.assertEqual(stands(row.id), 1)
        pieces[1].mark = ""
        self.session.flush()
        self.assertEqual(stands(row.id), 2)
