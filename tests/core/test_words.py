"""Each message is in the catalogue by its key, with the figures it is said with; nothing is in it that nobody says; no code reads words."""

import ast
import re
import unittest
from collections.abc import Iterator
from pathlib import Path
from typing import ClassVar

from vane_check.core.words import HOLE, holes_of
from vane_check.languages import OWN, catalogues

ROOT = Path(__file__).parents[2]
PACKAGE = ROOT / "vane_check"
FRONT = ROOT / "front" / "src"
KEY = re.compile(r"[a-z_]\w*(\.\w+)+")
SAYS = frozenset({"say", "say_from", "has", "NotAList"})
BY_TABLE = ("source.", "unit.", "school.")
"""Families that `listed` and `cited` read by their text in a table."""
WORDS = ("word.",)
"""The family of `word` and of the page's `wordOf`."""
LOOKS = frozenset({"partition", "startswith", "endswith", "split", "removeprefix", "find"})
FORMER = (PACKAGE / "languages" / "former-keys.txt").read_text("utf-8").split()
"""Messages that records have and no code says."""
OF_ITSELF = frozenset({"as_written", "capital", "in_a_row"})


def files() -> Iterator[tuple[Path, ast.Module]]:
    for path in sorted(PACKAGE.rglob("*.py")):
        yield path, ast.parse(path.read_text("utf-8"))


def calls(tree: ast.Module) -> Iterator[ast.Call]:
    for node in ast.walk(tree):
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in SAYS and node.args:
            yield node


def family(key: ast.JoinedStr) -> re.Pattern[str]:
    """A key that is put together, as a pattern of the keys it may be."""
    parts = (re.escape(part.value) if isinstance(part, ast.Constant) else r"\w+" for part in key.values)
    return re.compile("".join(map(str, parts)))


class Keys(unittest.TestCase):
    english: ClassVar = catalogues()[OWN].messages

    def test_every_message_that_is_said_is_there_with_its_figures(self) -> None:
        """In Python; what screens say is held by the compiler (`Messages`, front/src/language/english.ts)."""
        wrong = []
        for path, tree in files():
            for call in calls(tree):
                key, place = call.args[0], f"{path.relative_to(ROOT)}:{call.lineno}"
                if isinstance(key, ast.JoinedStr):
                    if not any(family(key).fullmatch(one) for one in self.english):
                        wrong.append(f"{place}: no message of {ast.unparse(key)}")
                elif isinstance(key, ast.Constant) and key.value not in self.english:
                    wrong.append(f"{place}: no message {key.value}")
                elif isinstance(key, ast.Constant) and ast.unparse(call.func) in {"say", "NotAList"}:
                    figures = {keyword.arg for keyword in call.keywords}
                    needed = {*holes_of(key.value), *(["count"] if isinstance(self.english[key.value], tuple) else [])}
                    if figures != needed and figures != needed | {"count"}:
                        wrong.append(f"{place}: {key.value} takes {sorted(needed)}, not {sorted(map(str, figures))}")
        self.assertEqual(wrong, [])

    def test_nothing_is_in_it_that_nobody_says(self) -> None:
        used, families = set(OF_ITSELF), []
        for _, tree in files():
            for node in ast.walk(tree):
                if isinstance(node, ast.Constant) and isinstance(node.value, str):
                    used.add(node.value)
                elif isinstance(node, ast.JoinedStr) and KEY.match(f"{getattr(node.values[0], 'value', '')}x"):
                    families.append(family(node))
        for path in FRONT.rglob("*.ts*"):
            if path.name != "english.ts":
                used |= set(re.findall(r'"([\w.]+)"', path.read_text("utf-8")))
        unused = [
            key
            for key in self.english
            if key not in used
            and key not in FORMER
            and not key.startswith((*BY_TABLE, *WORDS))
            and not any(one.fullmatch(key) for one in families)
        ]
        self.assertEqual(unused, [])

    def test_every_language_has_every_message_with_the_same_figures_and_no_other(self) -> None:
        for code, catalogue in catalogues().items():
            self.assertEqual(catalogue.messages.keys() - self.english.keys(), set(), code)
            for key, message in catalogue.messages.items():
                parts = message if isinstance(message, tuple) else (message,)
                self.assertEqual(
                    {*HOLE.findall(" ".join(parts))} - {"count"}, {*holes_of(key)} - {"count"}, (code, key)
                )
        self.assertEqual(self.english.keys() - catalogues()["de"].messages.keys(), set())

    def test_no_figure_is_a_word_of_ours(self) -> None:
        """A word within a message is a message too, or part of it: a constant of the code is said in no other language."""
        wrong = []
        for path, tree in files():
            for call in calls(tree):
                for keyword in call.keywords:
                    inside = [keyword.value]
                    while inside:
                        node = inside.pop()
                        if (
                            isinstance(node, ast.Constant)
                            and isinstance(node.value, str)
                            and re.search("[a-z]{2}", node.value)
                        ):
                            wrong.append(f"{path.relative_to(ROOT)}:{call.lineno}: {keyword.arg} {node.value!r}")
                        if not isinstance(node, ast.Call | ast.Subscript | ast.Compare):
                            inside += ast.iter_child_nodes(node)
        self.assertEqual(wrong, [])

    def test_a_message_that_is_said_no_more_stays_where_records_have_it(self) -> None:
        """Facts in records outlive the code that said them: `former-keys.txt` keeps their messages in every language."""
        self.assertEqual([key for key in FORMER if key not in self.english], [])


class NobodyReadsWords(unittest.TestCase):
    def test_no_code_branches_on_what_is_said(self) -> None:
        """Nothing is compared with a message, or looked for in one: keys and figures are there for that."""
        said = {
            part
            for message in catalogues()[OWN].messages.values()
            for part in (message if isinstance(message, tuple) else (message,))
            if re.search(r"[a-z]{2}\W+[a-z]{2}", part)
        }
        texts = ("text", "words", "headline", "reading_text", "limit_text", "why", "why_not", "short", "needs")
        wrong = []
        for path, tree in files():
            if path.name == "words.py":
                continue
            for node in ast.walk(tree):
                if isinstance(node, ast.Compare):
                    sides = [node.left, *node.comparators]
                    constants = [
                        one.value for one in sides if isinstance(one, ast.Constant) and isinstance(one.value, str)
                    ]
                    reads = any(isinstance(one, ast.Attribute) and one.attr in texts for one in sides)
                    in_full = {one for one in constants if len(re.findall(r"[a-z]{2,}", one)) > 3}
                    if said & in_full or (reads and any(re.search("[a-z]", one) for one in constants)):
                        wrong.append(f"{path.relative_to(ROOT)}:{node.lineno}: {ast.unparse(node)}")
                looks = isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr in LOOKS
                if looks and getattr(node.func.value, "attr", "") in texts:
                    wrong.append(f"{path.relative_to(ROOT)}:{node.lineno}: {ast.unparse(node)}")
        self.assertEqual(wrong, [])
