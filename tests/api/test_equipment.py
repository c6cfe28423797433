"""The book of equipment over the API: tools, their checks, what a reading keeps of them, opening hours."""

import uuid
from datetime import timedelta
from typing import Any

from tests.api.test_dangers import entry
from tests.api.test_rack import ALWAYS, AtTheRack

TESTER = {"kind": "tester", "scales": ["CCA"], "types": ["flooded"], "uncertainty_ratio": 0.05}


class Book(AtTheRack):
    def write(self, **more: Any) -> Any:
        body = {"name": "Second tester", "tool": TESTER, **more}
        return self.teo.send("POST", "/equipment", {"equipment": body})

    def test_a_tool_is_written_in_named_once_and_checked_in_the_past(self) -> None:
        self.assertEqual(self.write().status_code, 201)
        self.assertEqual(self.write(name="second TESTER").json()["errors"][0]["path"], "equipment.name")
        late = self.write(name="Third", checked_on=(self.clock + timedelta(days=3)).date().isoformat())
        self.assertEqual(late.json()["errors"][0]["path"], "equipment.checked_on")
        self.assertEqual(self.write(name="Fourth", tool={**TESTER, "uncertainty_ratio": 4}).status_code, 422)

    def test_a_reading_keeps_the_tool_as_the_book_has_it_and_says_when_it_is_overdue(self) -> None:
        tag = self.flat()
        meter = self.book["Pocket meter"]
        self.assertIsNotNone(meter["overdue_since"])
        reading = {
            **entry("rest_volts", volts=12.5),
            "tool": {"equipment_id": meter["id"], "name": "made up"},
            "taken_at": self.clock.isoformat(),
        }
        view = self.teo.send("POST", f"/batteries/{tag}/readings", reading).json()
        kept = view["readings"][-1]["reading"]["tool"]
        self.assertEqual(
            (kept["name"], kept["tool"]["percent"], kept["overdue_since"]),
            ("Pocket meter", 1.0, meter["overdue_since"]),
        )
        self.assertTrue(
            any("Pocket meter was due for its check" in one["text"] for one in view["judgement"]["findings"])
        )
        # written anew meanwhile, the same reading sent again is the same reading
        body = {
            "equipment": {**meter["equipment"], "checked_on": self.clock.date().isoformat()},
            "based_on": meter["edition"],
        }
        self.assertEqual(self.teo.send("PUT", f"/equipment/{meter['id']}", body).status_code, 200)
        self.assertEqual(self.teo.send("POST", f"/batteries/{tag}/readings", reading).status_code, 201)
        gone = {**reading, "id": str(uuid.uuid4()), "tool": {"equipment_id": 99999}}
        self.assertEqual(self.teo.send("POST", f"/batteries/{tag}/readings", gone).json()["errors"][0]["path"], "tool")

    def test_what_is_out_of_order_is_not_asked_for(self) -> None:
        tag = self.flat(12.65)
        self.assertEqual(self.teo.get(f"/batteries/{tag}").json()["judgement"]["next_step"]["key"], "tester")
        for row in self.book.values():
            if row["equipment"]["tool"]["kind"] == "tester":
                body = {"equipment": {**row["equipment"], "state": "away"}, "based_on": row["edition"]}
                self.assertEqual(self.teo.send("PUT", f"/equipment/{row['id']}", body).status_code, 200)
        after = self.flat(12.65)
        self.assertEqual(self.teo.get(f"/batteries/{after}").json()["judgement"]["next_step"]["key"], "load_test")

    def test_a_charger_does_not_lose_the_output_a_battery_hangs_on(self) -> None:
        self.assertEqual(self.on(self.flat(), "Charger 4", 2).status_code, 201)
        row = self.book["Charger 4"]
        body = {
            "equipment": {**row["equipment"], "tool": {**row["equipment"]["tool"], "outputs": 1}},
            "based_on": row["edition"],
        }
        refused = self.teo.send("PUT", f"/equipment/{row['id']}", body)
        self.assertEqual(refused.json()["errors"][0]["path"], "equipment.tool.outputs")

    def test_only_a_lead_says_when_the_shop_is_open(self) -> None:
        self.assertEqual(self.teo.send("PUT", "/rack/hours", ALWAYS).status_code, 403)
        self.assertEqual(self.lead.send("PUT", "/rack/hours", {"days": [None] * 7}).status_code, 422)
        self.assertEqual(self.lead.send("PUT", "/rack/hours", {"days": [ALWAYS["days"][0]] * 6}).status_code, 422)
