"""German is written as its place writes figures and days; what somebody typed stands as typed; screens and papers say the same."""

import json
import random
import re
import string
import subprocess
import unittest
from datetime import date, datetime
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any, ClassVar
from unittest import mock

from tests.core.made_checks import made_checks
from vane_check.core.house.rules import house_rules
from vane_check.core.judging.judgement import assess
from vane_check.core.readings.check import Check
from vane_check.core.words import (
    Argument,
    Several,
    Words,
    as_written,
    capital,
    dated,
    digits,
    fact_of,
    fixed,
    for_record,
    from_record,
    holes_of,
    in_a_row,
    say,
    words_of,
)  # fmt: skip
from vane_check.languages import OWN, _read, catalogues, names, speaker_of, up_to_date
from vane_check.languages.speak import Speaker

ROOT = Path(__file__).parents[2]
GERMAN = catalogues()["de"]

NODE = """
import {build} from "vite";
let given = ""; for await (const part of process.stdin) given += part;
const asked = JSON.parse(given), kept = {"vane-check-language": asked.code};
globalThis.localStorage = {getItem: (name) => kept[name] ?? null, setItem: (name, value) => { kept[name] = value; }};
globalThis.document = {documentElement: {}};
globalThis.fetch = async () => ({status: 200, json: async () => asked.catalogue});
const {output} = await build({configFile: false, logLevel: "silent", ssr: {noExternal: true},
  build: {write: false, ssr: "../tests/core/language_of_pages.ts", minify: false}});
const {startLanguage, spoken} = await import("data:text/javascript;base64," + Buffer.from(output[0].code).toString("base64"));
await startLanguage();
console.log(JSON.stringify(spoken(asked.facts)));
"""


def on_screens(code: str, facts: list[Any], catalogue: dict[str, Any] | None = None) -> list[Any]:
    """What a page makes of facts, run by Node: the modules of the page as they are built."""
    given = catalogue or {
        "code": code,
        "name": "",
        "locale": catalogues()[code].locale,
        "edition": "x",
        "messages": catalogues()[code].for_pages,
    }
    run = subprocess.run(["node", "--input-type=module", "-e", NODE], cwd=ROOT / "front", input=json.dumps({"code": code, "facts": facts, "catalogue": given}), capture_output=True, text=True, check=True)  # fmt: skip
    result: list[Any] = json.loads(run.stdout.splitlines()[-1])
    return result


def words_in(value: Any) -> list[Words]:
    """Every word of a judgement."""
    if isinstance(value, Words):
        return [value]
    if isinstance(value, list | tuple):
        return [one for part in value for one in words_in(part)]
    parts = getattr(value, "__dict__", None) or {name: getattr(value, name) for name in getattr(value, "__slots__", ())}
    return [one for part in parts.values() for one in words_in(part)] if not isinstance(value, str) else []


def of_judgements(number: int) -> list[Words]:
    """What is said of so many checks made by chance, each once."""
    said: dict[str, Words] = {}
    for made in made_checks()[:number]:
        judged = assess(Check.model_validate(made["check"]), house_rules(made["school"]))
        said |= {json.dumps(fact_of(one)): one for one in words_in(judged)}
    return list(said.values())


class Catalogues(unittest.TestCase):
    def test_spaces_around_and_marks_are_the_same(self) -> None:
        self.assertEqual(names(), {"en": "English", "de": "Deutsch"})
        for key, message in GERMAN.messages.items():
            with self.subTest(key):
                said, english = (
                    "|".join([one]) if isinstance(one, str) else one[-1]
                    for one in (message, catalogues()[OWN].messages[key])
                )
                self.assertEqual((english[0] == " ", english[-1] == " "), (said[0] == " ", said[-1] == " "))
                self.assertEqual(english.count("<b>"), said.count("<b>"))

    def test_figures_stand_as_germans_write_them(self) -> None:
        dotted = re.compile(r"(?<![\d.])\d+\.\d{1,2}(?![\d.])")
        kept = {"17.30", "5.30", "20.03"}
        for key, message in GERMAN.for_pages.items():
            if "JCGM" not in message:
                self.assertEqual([one for one in dotted.findall(message) if one not in kept], [], key)


class AsTyped(unittest.TestCase):
    """What people typed is a figure that nobody looks up, whatever it is."""

    NASTY: ClassVar = [
        "Low and Loaded",
        "Red, White and Blue",
        "worn out",
        "{volts} V",
        "$t(word.sold)",
        "12.60",
        "3 Mar 2026",
        "<b>",
        "",
        "%(x)s",
        "Sound",
    ]

    def test_in_every_message_of_every_language(self) -> None:
        chance = random.Random(23)
        letters = string.ascii_letters + string.digits + " .,{}$%()äöüß“”"
        for code in catalogues():
            speaker = speaker_of(code)
            for key in catalogues()[OWN].messages.keys() - {"capital"}:
                typed = {
                    name: chance.choice(self.NASTY[:8]) + "".join(chance.choices(letters, k=8))
                    for name in holes_of(key)
                }
                plural = {"count": 2} if isinstance(catalogues()[OWN].messages[key], tuple) else {}
                said = speaker.say(say(key, **{**typed, **plural}))
                for name, text in typed.items():
                    if name not in plural:
                        self.assertIn(text, said, (code, key))

    def test_on_screens(self) -> None:
        facts = [fact_of(say("common.does_not_count", reading_text=typed, why=typed)) for typed in self.NASTY]
        facts += [{"text": typed, "name": typed} for typed in self.NASTY]
        for code in ("de", "en"):
            said = on_screens(code, facts)
            for typed, one, plain in zip(self.NASTY, said, said[len(self.NASTY) :], strict=False):
                self.assertEqual(one.count(typed) >= 2 if typed else True, True, (code, one))
                self.assertEqual(plain, {"text": typed, "name": typed})

    def test_a_fact_of_another_release_stops_nobody(self) -> None:
        for fact in ({"key": "said.no_more", "with": {}}, {"key": "figures.volts_v", "with": {"amps": 3}}):
            for code in catalogues():
                self.assertEqual(speaker_of(code).say(words_of(fact)), fact["key"])

    def test_a_sentence_of_an_older_release_is_as_it_was_written(self) -> None:
        for code in catalogues():
            self.assertEqual(
                speaker_of(code).say(words_of("Watch it: its figures lie apart")), "Watch it: its figures lie apart"
            )
        self.assertEqual(on_screens("de", [fact_of(as_written("worn out"))]), ["worn out"])


class Sentences(unittest.TestCase):
    def test_every_word_of_360_judgements_can_be_said_in_german(self) -> None:
        german = speaker_of("de")
        said = of_judgements(360)
        self.assertGreater(len(said), 1200)
        self.assertEqual([one for one in said if not german._can_say(one)], [])
        typed = {value for one in said for value in self.plain(one) if re.search(r"[a-z]{2}", value)}
        self.assertEqual(typed - {"a test"}, set(), "what no message says, and nobody typed")

    def plain(self, text: Argument) -> list[str]:
        """The parts that are plain text."""
        if isinstance(text, Words):
            return [one for part in text.figures.values() for one in self.plain(part)]
        if isinstance(text, Several):
            return [one for part in text.parts for one in self.plain(part)]
        return [text] if type(text) is str else []

    def test_screens_and_papers_say_the_same(self) -> None:
        said = of_judgements(90)
        at = datetime(2026, 3, 6, 9, 5)
        said += [
            say("warranty.out_of_time_since", ends_on=dated(at, "%d %b %Y")), say("figures.day_and_time", day=dated(at, "%a"), time=dated(at, "%H:%M")),
            say("outlook.years", count=1), say("outlook.years", count=3), in_a_row([say("outlook.months", count=1), "Teo"], ", "), capital(say("estimate.alone")),
        ]  # fmt: skip
        facts = [fact_of(one) for one in said]
        for code in ("de", "en"):
            speaker = speaker_of(code)
            for screen, one in zip(on_screens(code, facts), said, strict=True):
                self.assertEqual(screen, speaker.say(one))

    def test_a_fact_comes_back_as_it_went(self) -> None:
        for one in of_judgements(60):
            again = words_of(json.loads(json.dumps(fact_of(one))))
            self.assertEqual((str(again), fact_of(again)), (str(one), fact_of(one)))
            self.assertEqual(fact_of(from_record(for_record(one))), fact_of(one))


class Places(unittest.TestCase):
    """Days and figures by the CLDR, as two libraries have it: Babel on papers, ICU in the browser's engine."""

    LOCALES = ("de", "fr", "es", "pl", "sv")
    SHAPES = ("%d %b %Y", "%b %Y", "%d %b", "%A")

    def test_every_month_and_a_figure(self) -> None:
        said: list[Words] = []
        for month in range(1, 13):
            said += [say("figures.at", there=dated(date(2026, month, month + 3), shape)) for shape in self.SHAPES]
        said += [say("figures.volts_v", volts=fixed(12.66, 2)), say("figures.volts_v", volts=digits(-0.5))]
        messages = {"figures.at": "{there}", "figures.volts_v": "{volts} V"}
        for locale in self.LOCALES:
            speaker = Speaker(messages, locale, lambda count: int(count != 1))
            catalogue = {"code": locale, "name": "", "locale": locale, "edition": "x", "messages": messages}
            screens = on_screens(locale, [fact_of(one) for one in said], catalogue)
            self.assertEqual(screens, [speaker.say(one) for one in said], locale)

    def test_as_a_german_writes_them(self) -> None:
        """Common practice in Germany; DIN 1333 has the comma."""
        german, at = speaker_of("de"), datetime(2026, 11, 27, 16, 30)
        for text, said in (
            (fixed(12.66, 2), "12,66"), (fixed(1200, 0), "1200"), (dated(date(2026, 3, 3), "%d %b %Y"), "3. März 2026"),
            (dated(at, "%a %d %b %H:%M"), "Fr, 27. Nov. 16:30"), (12, "12"), (0.5, "0,5"),
        ):  # fmt: skip
            self.assertEqual(german.say(text), said)

    def test_a_plural_is_the_language_s_own(self) -> None:
        """Polish has three: `rok`, `lata`, `lat`. Source: Unicode CLDR plural rules, as gettext and ICU have them."""
        with TemporaryDirectory() as folder:
            path = Path(folder) / "pl.po"
            path.write_text(
                'msgid ""\nmsgstr ""\n"Language: pl\\n"\n"Content-Type: text/plain; charset=utf-8\\n"\n'
                '"Plural-Forms: nplurals=3; plural=(n==1 ? 0 : n%10>=2 && n%10<=4 && (n%100<10 || n%100>=20) ? 1 : 2);\\n"\n\n'
                'msgid "outlook.years"\nmsgid_plural "outlook.years"\nmsgstr[0] "{count} rok"\nmsgstr[1] "{count} lata"\nmsgstr[2] "{count} lat"\n',
                "utf-8",
            )
            polish = _read(path)
        said = [say("outlook.years", count=count) for count in (1, 3, 5, 22)]
        expected = ["1 rok", "3 lata", "5 lat", "22 lata"]
        catalogue = {"code": "pl", "name": "", "locale": "pl", "edition": "x", "messages": polish.for_pages}
        self.assertEqual(on_screens("pl", [fact_of(one) for one in said], catalogue), expected)
        with mock.patch("vane_check.languages.catalogues", lambda: {"pl": polish, OWN: catalogues()[OWN]}):
            speaker_of.cache_clear()
            self.assertEqual([speaker_of("pl").say(one) for one in said], expected)
        speaker_of.cache_clear()


class AnotherLanguage(unittest.TestCase):
    in_quick_run = False

    def test_it_is_one_file_begun_by_a_command_and_kept_up_to_date(self) -> None:
        with TemporaryDirectory() as folder, mock.patch.object(up_to_date, "FOLDER", Path(folder)):
            (Path(folder) / "en.po").write_bytes((ROOT / "vane_check" / "languages" / "en.po").read_bytes())
            waiting = up_to_date.bring_up_to_date("fr")
            self.assertEqual(waiting, len(catalogues()[OWN].messages))
            path = Path(folder) / "fr.po"
            key = 'msgid "outcome.worn_out.headline"\nmsgstr "'
            text = path.read_text("utf-8").replace(f'{key}"', f'{key}Usée"')
            path.write_text(text + '\nmsgid "said.no_more"\nmsgstr "plus dit"\n', "utf-8")
            self.assertEqual(up_to_date.bring_up_to_date("fr"), waiting - 1)
            french = _read(path)
        self.assertEqual(french.messages, {"outcome.worn_out.headline": "Usée"})
        speaker = Speaker(french.messages, "fr", lambda count: int(count > 1))
        self.assertEqual(speaker.say(say("outcome.worn_out.headline")), "Usée")
        whole = say("decide.after_jobs", headline=say("outcome.worn_out.headline"), count=3)
        self.assertEqual(
            speaker.say(whole), "Worn out, after 3 jobs", "a message that nobody translated is English whole"
        )
        catalogue = {"code": "fr", "name": "", "locale": "fr", "edition": "x", "messages": french.for_pages}
        self.assertEqual(on_screens("fr", [fact_of(whole)], catalogue), ["Worn out, after 3 jobs"])

    def test_one_that_nobody_wrote_is_english(self) -> None:
        self.assertEqual(speaker_of("xx").say(say("outcome.worn_out.headline")), "Worn out")


class NothingUnsaid(unittest.TestCase):
    """Every word of the screens goes through `t`: nothing else is a message."""

    SCAN = r"""
import ts from "typescript"; import fs from "fs"; import path from "path";
const found = [], files = fs.readdirSync("src", {recursive: true}).filter((one) => /\.tsx?$/.test(one) && !/(schema|english)\.ts$/.test(one));
const READ = /^(t|say|asked|css|keyframes)$/, KEYS = /^(type|role|name|href|to|d|placement|pointerEvents|vectorEffect|slot|outcome|validationBehavior|menuTrigger|\$\w+|data-.*|aria-(live|hidden|haspopup|current))$/;
for (const file of files) {
  const source = ts.createSourceFile(file, fs.readFileSync(path.join("src", file), "utf8"), ts.ScriptTarget.ESNext, true, ts.ScriptKind.TSX);
  const told = (text) => found.push([path.basename(file), text.trim()]);
  (function walk(node) {
    const above = node.parent;
    if (ts.isJsxText(node) && /\p{L}{2}/u.test(node.text.replace(/&\w+;/g, ""))) told(node.text);
    if (ts.isJsxAttribute(node) && node.initializer && ts.isStringLiteral(node.initializer))
      if (!KEYS.test(node.name.getText()) && /\p{L}{2,} \p{L}{2,}|^[A-Z][a-z]{2}/u.test(node.initializer.text)) told(node.initializer.text);
    if (ts.isStringLiteral(node) && /\p{L}{2,} \p{L}{2,}/u.test(node.text) && !ts.isJsxAttribute(above))
      if (!(ts.isCallExpression(above) && READ.test(above.expression.getText()))) told(node.text);
    if (ts.isConditionalExpression(above ?? node) && ts.isStringLiteral(node) && /^[A-Z]?[a-z]{2,}$/.test(node.text) && node.text !== "Ah")
      for (let up = above; up; up = up.parent) if (ts.isJsxExpression(up)) { if (!ts.isJsxAttribute(up.parent)) told(node.text); break; }
    ts.forEachChild(node, walk);
  })(source);
}
console.log(JSON.stringify(found));
"""
    KEYS: ClassVar[set[str]] = {
        "cell choice",
        "typed at the counter",
        "type it anew",
        "300px minmax(0, 1fr)",
        "no help",
    }
    """Kinds of fields, what is kept with a reading, part of what the server says, styles, a fault of ours."""

    def test_every_word_of_the_screens_is_in_the_catalogue(self) -> None:
        run = subprocess.run(["node", "--input-type=module", "-e", self.SCAN], cwd=ROOT / "front", capture_output=True, text=True, check=True)  # fmt: skip
        unsaid = [one for one in json.loads(run.stdout) if one[1] not in self.KEYS and "system-ui" not in one[1]]
        self.assertEqual(unsaid, [])
