"""English by key for whoever makes no file of its own: the core (`core/english.json`) and pages (`front/src/language/english.ts`,
with the figures that each message takes, for the compiler). Both are made of `en.po` by `bin/client`."""

import json
import sys
from itertools import groupby

from ..core.words import HOLE
from . import OWN, catalogues
from .speak import Message

HEAD = "// Made by bin/client from vane_check/languages/en.po: not to be edited.\n"


def for_the_core() -> str:
    """The messages as JSON, of a plural the one and the many."""
    return json.dumps(dict(sorted(catalogues()[OWN].messages.items())), ensure_ascii=False, indent=0) + "\n"


def for_pages() -> str:
    """A TypeScript module of the messages, and of the figures that each takes."""
    texts = json.dumps(dict(sorted(catalogues()[OWN].for_pages.items())), ensure_ascii=False)
    messages = sorted(catalogues()[OWN].messages.items())
    lines = (
        "  " + " ".join(f"{json.dumps(key)}: {_figures(message)};" for key, message in family)
        for _, family in groupby(messages, key=lambda item: item[0].partition(".")[0])
    )
    return (
        f"{HEAD}export const ENGLISH: Record<string, string> = {texts};\n\n"
        "/** The figures that each message takes, by name. */\nexport interface Messages {\n"
        + "\n".join(lines)
        + "\n}\n"
    )


def _figures(message: Message) -> str:
    holes = HOLE.findall(message if isinstance(message, str) else " ".join(message))
    return " | ".join(json.dumps(name) for name in dict.fromkeys(holes)) or "never"


def main() -> None:
    """Write one of them to standard output."""
    sys.stdout.write(for_the_core() if sys.argv[1:] == ["core"] else for_pages())


if __name__ == "__main__":
    main()
