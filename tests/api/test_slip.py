"""The slip on paper: one page for every judgement, plain words, whatever is written on it."""

import unittest
from datetime import UTC, date, datetime
from io import BytesIO
from itertools import pairwise
from typing import Any

from pypdf import PdfReader

from tests.build import check, judge, look, reading, tester, volts
from vane_check.core.battery.label import Battery
from vane_check.core.findings.outcomes import Outcome
from vane_check.core.judging.judgement import Judgement
from vane_check.papers.language import spoken
from vane_check.papers.scripts import in_order, parts
from vane_check.papers.shelf_tag import ShelfTag, shelf_tag
from vane_check.papers.slip import Claimed, Slip, draw

AT = datetime(2026, 3, 2, 9, 30, tzinfo=UTC)
PULL = reading("adjustable_load", 5, amps=300, seconds=15, volts=8.7)
JUDGED: dict[Outcome, Judgement] = {
    Outcome.UNSAFE: judge(look("bulged")),
    Outcome.SOUND: judge(volts(12.6), tester(620)),
    Outcome.NEEDS_CHARGE: judge(volts(12.0)),
    Outcome.CANNOT_TELL: judge(volts(12.6, temperature_c=5), tester(455)),
    Outcome.WORN_OUT: judge(volts(12.6), tester(300), PULL),
    Outcome.DEAD_CELL: judge(volts(10.5, after_full_charge=True)),
    Outcome.LEAKS_CHARGE: judge(
        volts(12.6, rested_hours=12), reading("stand", 900, start_volts=12.6, volts=12.0, hours=14)
    ),
    Outcome.WATCH: judge(volts(12.6), tester(300), context={"use": "standby"}),
}


def slip(judgement: Judgement, **more: Any) -> Slip:
    body = {
        "shop": "Weir Lane Batteries", "tag": 41, "battery": check(rated=600).battery, "customer": "A. Walker",
        "car": "Brevan Tillet 1.2", "judgement": judgement, "judged_at": AT, "printed_at": AT, "who": "Teo",
        "warranty": None, **more,
    }  # fmt: skip
    return Slip(**body)


def printed(judgement: Judgement, **more: Any) -> str:
    pages = PdfReader(BytesIO(draw(slip(judgement, **more)))).pages
    if len(pages) != 1:
        raise AssertionError(f"{len(pages)} pages")
    return " ".join(pages[0].extract_text().split())


class Paper(unittest.TestCase):
    def test_every_outcome_has_its_page_in_plain_words(self) -> None:
        self.assertEqual(set(JUDGED), set(Outcome))
        for outcome, judgement in JUDGED.items():
            with self.subTest(outcome.value):
                self.assertEqual(judgement.outcome, outcome)
                words = printed(judgement)
                self.assertIn(str(outcome.headline), words)
                self.assertIn("What to do", words)
                self.assertNotIn(str(judgement.next_step.text), words)  # the shop's own
                self.assertNotIn("Held against", words)
                self.assertIn(str(outcome.plain).split(":")[0][:40], words)
                self.assertIn("Tag 41", words)
                self.assertIn("Take care", words)
                self.assertIn("never into household waste", words)
                self.assertIn(f"house rules {judgement.rules_version}", words)

    def test_figures_that_count_are_printed_and_no_quarrel_over_them(self) -> None:
        words = printed(judge(volts(12.6), tester(250, clamped="studs")))
        self.assertIn("Measured: 12.60 V", words)
        for said in ("250 CCA", "does not count", "studs", "common practice", "school"):
            self.assertNotIn(said, words)

    def test_it_says_until_when_and_what_its_tester_says_otherwise(self) -> None:
        at = datetime(2026, 3, 5, 17, 30, tzinfo=UTC)
        words = printed(JUDGED[Outcome.NEEDS_CHARGE], ready_at=at, own_call="Teo says otherwise: worn out.")
        self.assertIn("Ready: Thu 05 Mar, 17:30", words)
        self.assertIn("Teo says otherwise: worn out.", words)

    def test_watch_names_its_date_and_the_car_its_reason(self) -> None:
        self.assertIn("Test again on: 02 Jun 2026", printed(JUDGED[Outcome.WATCH]))
        blamed = judge(volts(12.6), tester(620), context={"complaint": "slow_crank"})
        self.assertIn("Look at the car", printed(blamed))

    def test_charge_is_a_range_or_at_most(self) -> None:
        self.assertRegex(printed(JUDGED[Outcome.SOUND]), r"\d+ to \d+ % charged")
        flattered = judge(volts(12.2, settled="just_charged"))
        self.assertIn("at most", printed(flattered))

    def test_names_of_any_make_are_printed_as_written(self) -> None:
        for name in ("Łucja Żuraw", "O'Brien & Söhne <Ltd>", "Ñandú Çelik", "x" * 118):
            with self.subTest(name):
                self.assertIn(name[:20], printed(JUDGED[Outcome.SOUND], customer=name))

    def test_names_in_other_scripts_are_never_blank(self) -> None:
        for name, kept in (
            ("Ελένη Παππά", "Ελένη Παππά"),
            ("Наталья Щёкина", "Наталья Щёкина"),
            ("דנה לוי", "יול הנד"),  # as its signs stand from left to right
            ("\u0633\u0627\u0645\u064a", "\ufef2\ufee3\ufe8e\ufeb3"),  # joined forms, from left to right
        ):
            with self.subTest(name):
                self.assertEqual(in_order(name), kept)
                self.assertNotIn(None, [part.font for part in parts(name)])

    def test_every_script_that_people_are_named_in_has_its_letters(self) -> None:
        """Sample letters of each script by Unicode's own names of them, read back out of the PDF."""
        for name in (
            "王小明", "山田さくら", "김민준", "สมชาย", "अमित", "অমিত", "குமார்", "రాము", "અમિત", "ਅਮਿਤ", "ಅಮಿತ್", "അമിത്", "අමිත්", "ଅମିତ",
            "ሰላም", "គឹម", "ສົມ", "မောင်", "გიორგი", "Արմեն", "😀🔋🚗", "Nguyễn Văn Ơn", "Ðorđe Ŋøŕ",
        ):  # fmt: skip
            with self.subTest(name):
                self.assertNotIn(None, [part.font for part in parts(name)])
                self.assertNotIn(None, [part.font for part in parts(name, bold=True)])
                words = printed(JUDGED[Outcome.SOUND], customer=name)
                beyond = {sign for sign in name if ord(sign) > 0xFFFF}  # drawn, but no reader's search knows them
                self.assertLessEqual(set(name) - {" "} - beyond, set(words))
                self.assertNotIn("in no letters", words)

    def test_a_sign_of_no_family_stands_as_its_code_and_that_is_said_once(self) -> None:
        with spoken("en"):
            words = printed(JUDGED[Outcome.SOUND], customer="A\U0001faeaB\U00012000", car="\U0001faea")
        self.assertIn("1FAEA", words)
        self.assertIn("12000", words)
        self.assertEqual(words.count("2 signs here are in no letters"), 1)
        with spoken("en"):  # and the next paper begins anew
            self.assertNotIn("in no letters", printed(JUDGED[Outcome.SOUND]))

    def test_joiners_and_skins_are_no_signs_of_their_own(self) -> None:
        self.assertEqual("".join(str(part.text) for part in parts("👍\ufe0f\u200da")), "👍a")

    def test_tags_are_never_blank_either_and_end_before_their_edge(self) -> None:
        for line in ("王小明 48", "Merlow \U0001faea " * 20, "김" * 90):
            with self.subTest(line):
                tag = ShelfTag("Shop", line, "LN3", "640 A CCA", "99.00 EUR", "")
                words = "".join(page.extract_text() for page in PdfReader(BytesIO(shelf_tag(tag))).pages)
                self.assertIn(line[:2].strip(), words)
                self.assertEqual("1FAEA" in words, "\U0001faea" in line)

    def test_serial_sale_jobs_and_what_was_paid_stand_on_it(self) -> None:
        claim = Claimed(
            date(2026, 3, 2),
            "Pro rata: 10 of 24 months used",
            (
                ("Quellan Cycle 48", "154.00 EUR"),
                ("Credit", "-84.00 EUR"),
                ("Deposit: the old one stays here", "0.00 EUR"),
                ("To pay", "70.00 EUR"),
            ),
        )
        judged = judge(
            reading("charge_run", 1, amps=0.4, start_amps=6, volts=14.4, hours=8, finished=True),
            look("wet_top"),
            volts(12.6, 20, rested_hours=12),
            tester(620, 22),
            reading("car", 29, drain_ma=400),
        )
        body = check(rated=600, serial="QC48-1").battery
        words = printed(judged, battery=body, serial="QC48-1", sold_on=date(2025, 5, 1), claim=claim)
        for said in (
            "serial QC48-1", "sold 01 May 2025", "Claim written 02 Mar 2026", "-84.00 EUR", "To pay 70.00 EUR",
            "A garage's, before hand-back: the car: 400 mA",
            "Sound, after: clean top", "healthy and charged enough to use once what stands below is done",
        ):  # fmt: skip
            self.assertIn(said, words)

    def test_an_unsafe_one_names_what_the_customer_is_to_know(self) -> None:
        words = printed(JUDGED[Outcome.UNSAFE])
        self.assertIn("do not charge it, jump it or carry it inside a car", words)
        self.assertNotIn("Tell the customer", words)
        self.assertNotIn("jump it", printed(JUDGED[Outcome.SOUND]))

    def test_a_bare_battery_and_twenty_readings_still_make_one_page(self) -> None:
        bare = printed(judge(rated=None), battery=Battery(), customer="", car="")
        self.assertIn("Nothing was read", bare)
        self.assertIn("no rating on it", bare)
        many = judge(
            *(volts(12.6 + place / 100, place) for place in range(10)), *(tester(600 + n, 20 + n) for n in range(10))
        )
        self.assertIn("Sound", printed(many))

    def test_what_is_set_smaller_begins_where_its_text_does_and_no_line_lies_on_another(self) -> None:
        for times in (1, 16):
            words: list[tuple[str, float, float]] = []

            def seen(text: str, at: Any, moved: Any, *_: Any, words: list[tuple[str, float, float]] = words) -> None:
                words.append((text.strip(), round(at[0] * moved[4] + at[4]), at[3] * moved[5] + at[5]))

            judged = judge(*(volts(12.4 + place / 100, place) for place in range(times)), tester(620, 40))
            PdfReader(BytesIO(draw(slip(judged)))).pages[0].extract_text(visitor_text=seen)
            left = {text: x for text, x, _ in words}
            heads = ("Weir Lane Batteries", "Sound", "What to do", "Take care")
            self.assertEqual({left[head] for head in heads}, {51})  # 18 mm
            column = [y for text, x, y in words if text and x == 51]
            self.assertTrue(all(above == below or above - below > 6 for above, below in pairwise(column)), column)

    def test_warranty_is_said_when_there_is_something_to_say(self) -> None:
        words = printed(JUDGED[Outcome.WORN_OUT], warranty="Free replacement: 6 of 24 free months used.")
        self.assertIn("Free replacement: 6 of 24", words)
        self.assertNotIn("Warranty:", printed(JUDGED[Outcome.SOUND]))

    def test_the_file_says_what_it_is(self) -> None:
        found = PdfReader(BytesIO(draw(slip(JUDGED[Outcome.SOUND])))).metadata
        assert found is not None
        self.assertEqual((found.title, found.author), ("Battery slip, tag 41", "Weir Lane Batteries"))
        self.assertGreaterEqual(date(2026, 3, 2), AT.date())
