import unittest
from typing import Any

from tests.api.test_api import TAKE_IN, reading, rest, tested
from tests.house import LEAD, TEO, Client, app_on, database
from vane_check.core.house.rules import house_rules


class RulesDesk(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.app = app_on(database())
        cls.lead, cls.teo = Client(cls.app, LEAD), Client(cls.app, TEO)

    def change(self, status: int = 201, client: Client | None = None, **body: Any) -> Any:
        based_on = self.lead.get("/rules").json()["version"]
        body = {"reason": "tried in the test", "based_on": based_on, **body}
        found = (client or self.lead).send("POST", "/rules", body)
        self.assertEqual(found.status_code, status, found.text)
        return found.json()

    def judged(self, cca: float) -> Any:
        tag = self.teo.send("POST", "/batteries", TAKE_IN).json()["tag"]
        for body in (reading("look"), rest()):
            self.teo.send("POST", f"/batteries/{tag}/readings", body)
        return self.teo.send("POST", f"/batteries/{tag}/readings", tested(cca)).json()

    def test_every_value_is_shown_with_unit_source_and_standing(self) -> None:
        rules = self.lead.get("/rules").json()["rules"]
        self.assertGreater(len(rules), 190)
        for path, rule in rules.items():
            self.assertTrue(rule["unit"] and rule["source"] and rule["standing"] and rule["holds_from"], path)

    def test_a_new_version_holds_from_now_on_and_no_old_judgement_changes(self) -> None:
        before = self.judged(500)
        self.assertEqual(before["judgement"]["outcome"], "cannot_tell")
        made = self.change(values={"tester.replace_below_ratio": 0.70}, reason="our makers take claims at 70 %")
        after = self.judged(500)
        self.assertEqual(after["judgement"]["outcome"], "sound")
        self.assertEqual(after["judgement"]["rules_version"], made["version"])
        old = self.teo.get(f"/batteries/{before['tag']}").json()
        self.assertEqual(
            (old["judgement"]["outcome"], old["judgement"]["rules_version"]),
            ("cannot_tell", before["judgement"]["rules_version"]),
        )
        value = made["rules"]["tester.replace_below_ratio"]
        self.assertEqual(
            (value["source"], value["standing"]), ("house choice: our makers take claims at 70 %", "practice")
        )
        self.assertEqual(made["versions"][0]["made_by"], LEAD)
        self.assertEqual(value["holds_from"], made["holds_from"])
        self.assertLess(made["rules"]["tester.absurd_ratio"]["holds_from"], made["holds_from"])

    def test_a_preset_is_chosen_whole(self) -> None:
        made = self.change(school="load_first")
        self.assertEqual(made["rules"]["decision.deciding_kinds"]["value"], ["adjustable_load"])
        self.assertEqual(self.judged(620)["judgement"]["next_step"]["key"], "load_test")
        self.change(school="electronic_first")

    def test_only_a_lead_and_only_with_a_reason_and_values_that_can_be(self) -> None:
        self.change(403, client=self.teo)
        self.change(422, reason="")
        self.assertEqual(self.change(422, school="guess")["errors"][0]["path"], "school")
        for values, said in (
            ({"tester.replace_below_ratio": 5}, "0.4 to 0.95"),
            ({"rest.recharge_line_volts": 124}, "12 to 12.7"),
            ({"rest.school": "a while"}, "Pick from headlamps"),
            ({"steps.tools_at_hand": ["meter", "wand"]}, "Pick from meter"),
            ({"decision.deciding_kinds": []}, "at least 1"),
            ({"stand.self_discharge_pct_per_month": {"agm": 1}}, "Give a number for each of flooded"),
            ({"steps.minutes": {**house_rules().steps.minutes.value, "cells": -1}}, "0 to 20160"),
            ({"load.cold_resistance_ratio": 0}, "1 to 3"),
            ({"weight.tester": 1.5}, "0 to 1"),
            ({"nonsense": 1}, "no such rule"),
            ({"load.seconds": "long"}, "number"),
            ({"load.seconds": -1}, "5 to 30"),
        ):
            with self.subTest(values):
                found = self.change(422, values=values)
                self.assertEqual(found["errors"][0]["path"], f"values.{next(iter(values))}")
                self.assertIn(said, found["errors"][0]["message"])


class Labels(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.teo = Client(app_on(database()), TEO)

    def test_date_codes_are_read_into_candidates(self) -> None:
        found = self.teo.get("/date-codes", params={"code": "C5", "sold_on": "2025-06-01"}).json()
        self.assertEqual(found[0]["made_on"], "2025-03-01")
        self.assertEqual(self.teo.get("/date-codes", params={"code": "??"}).json(), [])

    def test_a_missing_rating_is_borrowed_and_says_so(self) -> None:
        car = next(one for one in self.teo.get("/reference").json()["cars"] if one["name"] == "Caldo Stanza")
        for more, source in (
            ({"vehicle_id": car["id"]}, "vehicle"),
            ({"battery": {"line": "Merlow Plain", "group_code": "48"}}, "catalogue"),
        ):
            body = {**TAKE_IN, "battery": {"group_code": "48"}, **more}
            tag = self.teo.send("POST", "/batteries", body).json()["tag"]
            label = self.teo.get(f"/batteries/{tag}").json()["battery"]
            self.assertEqual(label["rating_source"], source)
            self.teo.send("POST", f"/batteries/{tag}/readings", rest())
            seen = self.teo.send("POST", f"/batteries/{tag}/readings", tested(label["rating"]["amps"])).json()
            self.assertIn(f"from the {source}", seen["judgement"]["findings"][1]["text"])
            self.assertLess(seen["judgement"]["confidence"], 0.7)

    def test_printed_codes_are_recognised(self) -> None:
        tag = self.teo.send("POST", "/batteries", {**TAKE_IN, "battery": {"group_code": "55D23L"}}).json()["tag"]
        size = self.teo.get(f"/batteries/{tag}").json()["size"]
        self.assertEqual((size["code"], size["positive_side"]), ("D23L", "right"))


class TakingBack(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.teo = Client(app_on(database()), TEO)

    def test_an_entry_is_taken_back_once_and_stays_readable(self) -> None:
        tag = self.teo.send("POST", "/batteries", TAKE_IN).json()["tag"]
        slip = tested(300)
        self.teo.send("POST", f"/batteries/{tag}/readings", rest())
        worn = self.teo.send("POST", f"/batteries/{tag}/readings", slip).json()
        self.assertEqual(worn["judgement"]["outcome"], "worn_out")
        back = {"id": rest()["id"], "kind": "withdrawal", "taken_at": slip["taken_at"], "replaces": slip["id"]}
        seen = self.teo.send("POST", f"/batteries/{tag}/readings", back).json()
        self.assertEqual(seen["judgement"]["outcome"], "cannot_tell")
        self.assertEqual([one["corrected"] for one in seen["readings"]], [False, True, False])
        again = {**back, "id": rest()["id"]}
        self.assertEqual(self.teo.send("POST", f"/batteries/{tag}/readings", again).status_code, 409)

    def test_every_kind_of_reading_is_kept_and_comes_back_as_it_was(self) -> None:
        tag = self.teo.send("POST", "/batteries", TAKE_IN).json()["tag"]
        at = rest()["taken_at"]
        bodies: list[dict[str, Any]] = [
            {
                "kind": "look",
                "marks": [{"sign": "wet_top", "view": "top", "across": 0.3, "down": 0.2}],
                "corrosion": "light",
            },
            {"kind": "case_leakage", "volts": 0.2, "cleaned": True},
            {"kind": "cells", "specific_gravities": [1.26, 1.261, 1.262, 1.26, 1.259, 1.26], "temperature_c": 20},
            {"kind": "adjustable_load", "amps": 320, "seconds": 15, "volts": 10.2, "needle": "held"},
            {"kind": "fixed_load", "amps": 100, "seconds": 10, "volts": 11.2, "bounce_volts": 12.4},
            {"kind": "crank", "volts": 10.4, "seconds": 10},
            {"kind": "charge_run", "start_amps": 7, "amps": 1, "volts": 14.4, "hours": 6, "finished": True},
            {"kind": "stand", "start_volts": 12.8, "volts": 12.7, "hours": 14},
            {"kind": "car", "idle_volts": 14.2, "drain_ma": 30},
        ]
        for body in bodies:
            with self.subTest(body["kind"]):
                sent = {"id": rest()["id"], "taken_at": at, **body}
                found = self.teo.send("POST", f"/batteries/{tag}/readings", sent)
                self.assertEqual(found.status_code, 201, found.text)
                kept = found.json()["readings"][-1]["reading"]
                self.assertEqual(
                    {name: kept[name] for name in body if name != "marks"},
                    {name: body[name] for name in body if name != "marks"},
                )
        life = self.teo.get(f"/batteries/{tag}/life").json()
        self.assertEqual(len(life["check"]["readings"]), len(bodies))

    def test_wrong_counts_of_cells_name_the_field(self) -> None:
        tag = self.teo.send("POST", "/batteries", TAKE_IN).json()["tag"]
        body = {"id": rest()["id"], "taken_at": rest()["taken_at"], "kind": "cells", "specific_gravities": [1.26] * 5}
        found = self.teo.send("POST", f"/batteries/{tag}/readings", body)
        self.assertEqual((found.status_code, found.json()["errors"][0]["path"]), (422, "specific_gravities"))
        self.assertIn("6 cells", found.json()["errors"][0]["message"])
