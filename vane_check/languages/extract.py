"""Every message of the product, found in its sources: what screens say through `t`, sentences of the core, desks and papers,
and the words of its tables. `bin/messages CODE` brings a language's file up to date with them."""

import ast
import csv
import json
import re
import sys
from collections.abc import Iterator

from babel.messages.catalog import Catalog, Message
from babel.messages.pofile import read_po, write_po

from ..core.house.rules import SCHOOLS, house_rules
from . import FOLDER

ROOT = FOLDER.parents[1]
NOT_MESSAGES = FOLDER / "not-messages.json"
"""Texts of the sources that nobody reads on a screen or a paper."""
WORDS = FOLDER / "words.json"
"""Single words that the core says: nothing in the sources tells them from names of its own."""
TABLES = {
    "cautions": None, "causes": None, "jobs": None, "fitting": None, "void-effects": None, "cleaning": None, "stop-start-waits": None,
    "entry-limits": ("what_to_enter",), "rating-scales": ("definition",), "validity": ("words",),
}  # fmt: skip
"""Tables with words for people, and which of their columns; None is all but where they are from."""
_SAID = re.compile(r"""\bt\(\s*("(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*')""")
_ELSEWHERE = (
    "records/",
    "demo/",
    "start/",
    "languages/",
    "core/simulation/",
    "core/goods/importing/fields",
    "core/goods/importing/item_columns",
    "api/methods",
    "__main__",
)
_KEYWORDS = frozenset({"description", "pattern", "alias", "tags", "prefix", "name"})
_CALLS = re.compile(
    r"(^|\.)(compile|match|fullmatch|sub|search|text|strftime|getattr|setattr|get|pop|split|join|startswith|endswith|replace|"
    r"removesuffix|removeprefix|Path|Query|Literal|info|exception|warning|header|open|strptime|encode|decode|index|count|"
    r"partition|rpartition|AssertionError|KeyError|RuntimeError|ImportError|announce|drawString|setFont|registerFont|hasattr)$"
)
_CODE = re.compile(
    r"^(select|insert|update|with |create|from |/|#|[a-z_]+=)|vane-check|\\d|\[\^|;charset|application/|text/|no-store|default-src|"
    r"%\(|^\s*$|\{0\}_|_\{0\}|Europe/|^[a-z_]+\.[a-z_.{}0-9]+$|^[a-z_]+\[\{0\}\]"
)
_DEEP = 7


def messages() -> set[str]:
    """All of them, without those that are listed as none."""
    none = set(json.loads(NOT_MESSAGES.read_text("utf-8")))
    return (
        set(screens()) | set(sentences()) | set(tables()) | set(rules()) | set(json.loads(WORDS.read_text("utf-8")))
    ) - none


def screens() -> Iterator[str]:
    """What the screens say."""
    for path in sorted((ROOT / "front" / "src").rglob("*.ts*")):
        if path.name != "schema.ts":
            for found in _SAID.finditer(path.read_text("utf-8")):
                said = found[1]
                yield json.loads(said) if said[0] == '"' else said[1:-1].replace("\\'", "'")


def tables() -> Iterator[str]:
    """The words of the tables, and where each is from."""
    for name, columns in TABLES.items():
        with (ROOT / "vane_check" / "core" / "tables" / f"{name}.csv").open(encoding="utf-8") as file:
            for row in csv.DictReader(file):
                for column, said in row.items():
                    is_said = column in columns if columns else column not in {"source", "standing"}
                    if is_said and re.search(r"[a-z]{2}.* ", said or ""):
                        yield said
    for path in sorted((ROOT / "vane_check" / "core" / "tables").glob("*.csv")):
        with path.open(encoding="utf-8") as file:
            yield from (
                row["source"] for row in csv.DictReader(file) if re.search(r"[a-z]{2}", row.get("source") or "")
            )


def rules() -> Iterator[str]:
    """The house rules: their names as screens show them, their units and where they are from."""
    for school in SCHOOLS:
        found = house_rules(school)
        for path, rule in found.parameters().items():
            named = (one.replace("_", " ") for one in (*path.split("."), *rule.choices))
            yield from (said for said in (*named, rule.unit, rule.source) if re.search(r"[a-z]{2}", said))


def sentences() -> Iterator[str]:
    """The sentences of the core, the desks, the API and the papers; what is put in stands as {0}, {1}."""
    package = ROOT / "vane_check"
    for path in sorted(package.rglob("*.py")):
        if not str(path.relative_to(package)).startswith(_ELSEWHERE):
            yield from _messages_in(ast.parse(path.read_text("utf-8")))


def _messages_in(tree: ast.Module) -> Iterator[str]:
    above = {child: node for node in ast.walk(tree) for child in ast.iter_child_nodes(node)}
    parts = {
        id(inner)
        for node in ast.walk(tree)
        if isinstance(node, ast.JoinedStr)
        for value in node.values
        for inner in (
            ast.walk(value.format_spec) if isinstance(value, ast.FormattedValue) and value.format_spec else [value]
        )
        if not isinstance(inner, ast.FormattedValue)
    }
    for node in ast.walk(tree):
        if id(node) in parts:
            continue
        if isinstance(node, ast.JoinedStr):
            said = _template(node)
        elif isinstance(node, ast.Constant) and isinstance(node.value, str):
            said = node.value
            if not re.search(r"\s", said) and not re.match(r"^[A-Z][a-z]+$", said):
                continue
        else:
            continue
        if re.search(r"[a-z]{2}", said) and not _CODE.search(said) and not _is_code(node, above):
            yield said


def _template(node: ast.JoinedStr) -> str:
    said, holes = "", 0
    for value in node.values:
        if isinstance(value, ast.Constant):
            said += str(value.value)
        else:
            said += f"{{{holes}}}"
            holes += 1
    return said


def _is_code(node: ast.AST, above: dict[ast.AST, ast.AST]) -> bool:
    inner, outer = node, above.get(node)
    if isinstance(outer, ast.Expr | ast.Assert) or (isinstance(outer, ast.Dict) and inner in outer.keys):
        return True
    for _ in range(_DEEP):
        if outer is None or isinstance(outer, ast.FunctionDef | ast.ClassDef):
            return False
        if isinstance(outer, ast.keyword) and outer.arg in _KEYWORDS:
            return True
        if isinstance(outer, ast.Call) and inner is not outer.func and _CALLS.search(ast.unparse(outer.func)):
            return True
        if isinstance(outer, ast.Compare) or (isinstance(outer, ast.Subscript) and outer.slice is inner):
            return True
        inner, outer = outer, above.get(outer)
    return False


def bring_up_to_date(code: str) -> int:
    """Add what is new to a language's file and set aside what is said no more: sentences of older releases were kept and are
    read still. Returns how many wait to be translated."""
    path = FOLDER / f"{code}.po"
    known: dict[str, str] = {}
    if path.exists():
        with path.open("rb") as file:
            found = read_po(file, locale=code)
        known = {str(one.id): str(one.string) for one in (*found.obsolete.values(), *found) if one.id and one.string}
    catalog = Catalog(locale=code, fuzzy=False)
    for said in sorted(messages()):
        catalog.add(said, known.get(said, ""))
    said_once = {said: text for said, text in known.items() if said not in catalog and " " in said}
    catalog.obsolete.update({said: Message(said, text) for said, text in sorted(said_once.items())})
    with path.open("wb") as file:
        write_po(file, catalog, width=0, sort_output=True, omit_header=True)
    told = path.read_text("utf-8")
    head = f'msgid ""\nmsgstr ""\n"Language: {code}\\n"\n"Content-Type: text/plain; charset=utf-8\\n"\n\n'
    path.write_text(head + told, "utf-8")
    return sum(not known.get(said) for said in messages())


def main() -> int:
    """Bring the language that is named up to date."""
    if len(sys.argv) != 2 or not re.fullmatch(r"[a-z]{2,3}(_[A-Z]{2})?", sys.argv[1]):
        print("name one language, such as: bin/messages de", file=sys.stderr)
        return 2
    print(f"{bring_up_to_date(sys.argv[1])} messages wait to be translated in vane_check/languages/{sys.argv[1]}.po")
    return 0


if __name__ == "__main__":
    sys.exit(main())
