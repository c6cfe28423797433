"""German is complete, reads every sentence of the core, and is written as its place writes figures and days."""

import json
import re
import subprocess
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any, ClassVar
from unittest import mock

from babel.messages.pofile import read_po

from tests.core.made_checks import made_checks
from vane_check.core.house.rules import house_rules
from vane_check.core.judging.judgement import assess
from vane_check.core.readings.check import Check
from vane_check.languages import FOLDER, _read, catalogues, extract, names, reader_of
from vane_check.languages.reader import HOLE, Reader

ROOT = Path(__file__).parents[2]
ON_SCREENS = {"locale": "de", "messages": catalogues()["de"].known}
EXAMPLES: list[tuple[str, str, str]] = json.loads((FOLDER / "examples.json").read_text("utf-8"))
SAID = frozenset(
    {"asks", "change", "counted_from", "found", "headline", "how", "jobs_done", "lighter_duty", "limit_text", "look_at_the_car_why",
     "needs", "not_measured", "notes", "rated_words", "reading_text", "rules_by", "set_words", "short", "sureness", "text", "what", "when",
     "why", "why_not", "words"}
)  # fmt: skip
"""What of a judgement people read."""

NODE = """
import ts from "typescript"; import fs from "fs";
const source = fs.readFileSync("src/language/reader.ts", "utf8");
const js = ts.transpileModule(source, {compilerOptions: {module: "ESNext", target: "ES2022"}}).outputText;
const {Reader} = await import("data:text/javascript," + encodeURIComponent(js));
const asked = JSON.parse(fs.readFileSync(0, "utf8"));
const readers = Object.fromEntries(asked.catalogues.map((one) => [one.locale, new Reader(one)]));
console.log(JSON.stringify(asked.texts.map(([locale, text]) => readers[locale].read(text))));
"""


def on_screens(catalogue: list[dict[str, Any]], texts: list[tuple[str, str]]) -> list[str]:
    """What the reader of the screens says, run by Node."""
    asked = json.dumps({"catalogues": catalogue, "texts": texts})
    run = subprocess.run(["node", "--input-type=module", "-e", NODE], cwd=ROOT / "front", input=asked, capture_output=True, text=True, check=True)  # fmt: skip
    found: list[str] = json.loads(run.stdout)
    return found


class Catalogues(unittest.TestCase):
    german: ClassVar[dict[str, str]] = catalogues()["de"].messages

    def test_german_says_every_message(self) -> None:
        self.assertEqual(sorted(extract.messages() - self.german.keys()), [])
        self.assertGreater(len(self.german), 3500)
        self.assertEqual(names(), {"en": "English", "de": "Deutsch"})

    def test_nothing_in_it_is_left_over_from_what_is_said_no_more(self) -> None:
        self.assertEqual(sorted(self.german.keys() - extract.messages()), [])

    def test_what_is_put_in_and_the_spaces_around_are_the_same(self) -> None:
        for message, said in self.german.items():
            with self.subTest(message):
                self.assertEqual(sorted(set(HOLE.findall(message))), sorted(set(HOLE.findall(said))))
                self.assertEqual((message[0] == " ", message[-1] == " "), (said[0] == " ", said[-1] == " "))
                self.assertEqual(message.count("<b>"), said.count("<b>"))

    def test_figures_stand_as_germans_write_them(self) -> None:
        dotted = re.compile(r"(?<![\d.])\d+\.\d{1,2}(?![\d.])")
        kept = {"17.30", "5.30", "20.03"}
        for message, said in self.german.items():
            if "JCGM" not in said:
                self.assertEqual([one for one in dotted.findall(said) if one not in kept], [], message)

    def test_a_new_message_is_seen_to_be_missing(self) -> None:
        tree = extract.ast.parse('def f(volts):\n    return f"{volts} V, and nobody ever said so"\n')
        self.assertEqual(set(extract._messages_in(tree)) - self.german.keys(), {"{0} V, and nobody ever said so"})

    def test_what_is_listed_as_no_message_is_in_the_sources(self) -> None:
        every = set(extract.sentences()) | set(extract.screens()) | set(extract.tables())
        none = set(json.loads(extract.NOT_MESSAGES.read_text("utf-8")))
        self.assertEqual(sorted(none - every), [])


class Sentences(unittest.TestCase):
    def test_every_sentence_of_360_judgements_is_german(self) -> None:
        german, unknown = reader_of("de"), set()
        assert german is not None

        def walk(value: Any, name: str) -> None:
            if isinstance(value, dict):
                for inner, one in value.items():
                    walk(one, inner)
            elif isinstance(value, list | tuple):
                for one in value:
                    walk(one, name)
            elif isinstance(value, str) and name in SAID:
                unknown.update(german.gaps(value))

        for made in made_checks():
            walk(assess(Check.model_validate(made["check"]), house_rules(made["school"])).model_dump(mode="json"), "")
        self.assertEqual(sorted(unknown), [])

    def test_the_examples_on_papers(self) -> None:
        for code, text, said in EXAMPLES:
            german = reader_of(code)
            assert german is not None
            self.assertEqual(german.read(text), said)

    def test_the_examples_on_screens(self) -> None:
        found = on_screens([ON_SCREENS], [(code, text) for code, text, _ in EXAMPLES])
        self.assertEqual(found, [said for _, _, said in EXAMPLES])

    def test_screens_and_papers_read_the_same_sentences_alike(self) -> None:
        texts = []
        for made in made_checks()[:60]:
            judged = assess(Check.model_validate(made["check"]), house_rules(made["school"]))
            texts += [found.text for found in judged.findings] + [
                judged.headline,
                judged.next_step.text,
                judged.next_step.why,
            ]
        german = reader_of("de")
        assert german is not None
        self.assertEqual(
            on_screens([ON_SCREENS], [("de", text) for text in texts]),
            [german.read(text) for text in texts],
        )

    def test_a_page_somebody_typed_takes_no_longer_than_a_sentence(self) -> None:
        """In looks, not in seconds: without an end this one takes tens of thousands."""
        german = Reader(catalogues()["de"].known, "de")
        typed = (
            "the battery, he thinks; was left in the cold: maybe charged, and read. Nobody knows, and nobody asked; "
            * 6
        )
        with mock.patch.object(Reader, "_look", autospec=True, side_effect=Reader._look) as looked:
            self.assertEqual(german.read(typed), typed)
        self.assertLessEqual(looked.call_count, 600)
        self.assertEqual(german.read("worn out"), "verbraucht", "what comes after it is read as ever")

    def test_names_and_what_somebody_wrote_stand_as_they_are(self) -> None:
        german = Reader({"nothing": "nichts", "{0} of {1}": "{0} von {1}", "sent to {0}": "an {0}"}, "de")
        self.assertEqual(german.read("Brevan Tillet 1.2"), "Brevan Tillet 1.2")
        self.assertEqual(german.read("sent to Quay Street"), "an Quay Street")
        self.assertEqual(german.read("Teo wrote that nothing of it was true"), "Teo wrote that nothing of it was true")


class Places(unittest.TestCase):
    """Days and figures by the CLDR, as two libraries have it: Babel on papers, ICU in the browser's engine."""

    LOCALES = ("de", "fr", "en-GB", "es", "pl", "sv")

    def test_every_month_and_a_figure(self) -> None:
        texts = [
            f"{day} {month} 2026"
            for day, month in zip(
                range(1, 13),
                ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"],
                strict=True,
            )
        ]
        texts += ["November 2026", "Mar 2026", "12.66", "-0.5"]
        asked = [(locale, text) for locale in self.LOCALES for text in texts]
        screens = on_screens([{"locale": locale, "messages": {}} for locale in self.LOCALES], asked)
        papers = [Reader({}, locale).read(text) for locale, text in asked]
        self.assertEqual(
            [(one, said) for one, said in zip(asked, screens, strict=True)], list(zip(asked, papers, strict=True))
        )

    def test_as_a_german_writes_them(self) -> None:
        """Common practice in Germany; DIN 1333 has the comma."""
        german = Reader({}, "de")
        for text, said in (
            ("12.66", "12,66"),
            ("3 Mar 2026", "3. März 2026"),
            ("Fri 27 Nov 16:30", "Fr, 27. Nov. 16:30"),
            ("12", "12"),
        ):
            self.assertEqual(german.read(text), said)


class AnotherLanguage(unittest.TestCase):
    in_quick_run = False

    def test_it_is_one_file_begun_by_a_command_and_kept_up_to_date(self) -> None:
        with TemporaryDirectory() as folder, mock.patch.object(extract, "FOLDER", Path(folder)):
            waiting = extract.bring_up_to_date("fr")
            self.assertEqual(waiting, len(extract.messages()))
            path = Path(folder) / "fr.po"
            told = path.read_text("utf-8").replace('msgid "worn out"\nmsgstr ""', 'msgid "worn out"\nmsgstr "usée"')
            path.write_text(told + '\nmsgid "said no more"\nmsgstr "plus dit"\n', "utf-8")
            self.assertEqual(extract.bring_up_to_date("fr"), waiting - 1)
            with path.open("rb") as file:
                kept = read_po(file)
            found = {str(one.id): str(one.string) for one in kept if one.id}
            self.assertEqual((found["worn out"], "said no more" in found), ("usée", False))
            self.assertEqual(
                kept.obsolete["said no more"].string, "plus dit"
            )  # what was kept when it was said is read still
            self.assertEqual(extract.bring_up_to_date("fr"), waiting - 1)
            self.assertEqual(path.read_text("utf-8").count("plus dit"), 1)
            self.assertEqual(_read(path).older["said no more"], "plus dit")
        french = Reader({message: said for message, said in found.items() if said}, "fr")
        self.assertEqual(french.read("worn out"), "usée")
        self.assertEqual(
            french.read("not enough to go on"), "not enough to go on", "what nobody translated stays English"
        )

    def test_a_language_nobody_wrote_has_no_reader(self) -> None:
        self.assertIsNone(reader_of("xx"))
        self.assertIsNone(reader_of("en"))


class NothingUnsaid(unittest.TestCase):
    """Every word of the screens goes through `t`: nothing else is in the catalogue."""

    SCAN = r"""
import ts from "typescript"; import fs from "fs"; import path from "path";
const found = [], files = fs.readdirSync("src", {recursive: true}).filter((one) => /\.tsx?$/.test(one) && !/schema\.ts$/.test(one));
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

    def test_what_a_screen_says_is_never_set_aside_as_no_message(self) -> None:
        none = set(json.loads(extract.NOT_MESSAGES.read_text("utf-8")))
        self.assertEqual(sorted(none & set(extract.screens())), [])

    def test_every_word_of_the_screens_is_in_the_catalogue(self) -> None:
        run = subprocess.run(["node", "--input-type=module", "-e", self.SCAN], cwd=ROOT / "front", capture_output=True, text=True, check=True)  # fmt: skip
        unsaid = [one for one in json.loads(run.stdout) if one[1] not in self.KEYS and "system-ui" not in one[1]]
        self.assertEqual(unsaid, [])
