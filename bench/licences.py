"""Licences of all that ships: `python -m bench.licences` writes docs/licences.md (with `requirements/bench.lock`).

Python packages by pip-licenses, out of what is installed; packages of the pages by what npm wrote into the lock file for them;
fonts by the licence that lies beside each. One of which nobody knows the licence ends it with 1.
"""

import json
import re
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
PAPER = ROOT / "docs" / "licences.md"
FONTS = ROOT / "vane_check" / "papers" / "fonts"
OF_FONTS = {
    "AtkinsonHyperlegibleNext": "OFL-1.1 (OFL.txt)",
    "DejaVu": "Bitstream Vera and public domain (DejaVu-LICENSE.txt)",
    "NotoSans": "OFL-1.1 (OFL.txt, OTHERS.txt)",
    "NanumSquare": "OFL-1.1 (OFL.txt, OTHERS.txt)",
    "DroidSansFallback": "Apache-2.0 (Apache-2.0.txt, OTHERS.txt)",
    "Symbola": "free for any use (OTHERS.txt)",
}
UNKNOWN = {"", "UNKNOWN", "SEE LICENSE IN LICENSE"}
HEAD = """# Licences

What ships with Vane Check or is installed to run it, and under which licence. Written by `python -m bench.licences`
(pip-licenses for Python, npm's own lock file for the pages); a test holds it against both lock files.

PostgreSQL and Chromium are Debian's packages and do not ship.
"""


def locked() -> dict[str, str]:
    """What the application's lock file pins, by name."""
    text = (ROOT / "requirements" / "app.lock").read_text()
    return dict(re.findall(r"^([a-z0-9._-]+)(?:\[[^]]*\])?==([^ \\]+)", text, re.MULTILINE))


def of_python() -> list[tuple[str, str, str]]:
    """Name, version and licence of each Python package."""
    said = subprocess.run(
        [sys.executable, "-m", "piplicenses", "--from=mixed", "--format=json", "--with-system"],
        capture_output=True, check=True, text=True,
    )  # fmt: skip
    found = {re.sub(r"[._]", "-", one["Name"].lower()): one["License"] for one in json.loads(said.stdout)}
    return [(name, version, _short(found.get(name, ""))) for name, version in sorted(locked().items())]


def _short(licence: str) -> str:
    """A licence by its name; some packages give its whole text."""
    lines = licence.strip().splitlines()
    return lines[0] if lines else ""


def of_pages() -> list[tuple[str, str, str]]:
    """The same of each npm package the pages are made of or built with."""
    lock = json.loads((ROOT / "front" / "package-lock.json").read_text())
    return sorted(
        (path.rpartition("node_modules/")[2], one["version"], one.get("license", ""))
        for path, one in lock["packages"].items()
        if path and not one.get("dev")
    )


def of_fonts() -> list[tuple[str, str, str]]:
    """The same of each font that papers are set in."""
    return [
        (path.name, "", next((said for start, said in OF_FONTS.items() if path.name.startswith(start)), ""))
        for path in sorted(FONTS.glob("*.ttf"))
    ]


def main() -> int:
    """Write the paper."""
    parts = {"Python": of_python(), "Pages": of_pages(), "Fonts": of_fonts()}
    lines = [HEAD]
    for title, rows in parts.items():
        lines += [f"## {title}", "", "| what | version | licence |", "|---|---|---|"]
        lines += [f"| {name} | {version} | {licence} |" for name, version, licence in rows]
        lines.append("")
    PAPER.write_text("\n".join(lines).rstrip() + "\n")
    unknown = [name for rows in parts.values() for name, _, licence in rows if licence.upper() in UNKNOWN]
    for name in unknown:
        print(f"Nobody says under which licence {name} is", file=sys.stderr)
    print(f"{sum(map(len, parts.values()))} packages and fonts, {len(unknown)} unknown")
    return 1 if unknown else 0


if __name__ == "__main__":
    sys.exit(main())
