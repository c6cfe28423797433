"""A language's file, begun or brought up to date with the messages there are in English: `bin/messages CODE`."""

import re
import sys

from babel.messages.catalog import Catalog
from babel.messages.pofile import read_po, write_po

from . import FOLDER, OWN


def bring_up_to_date(code: str) -> int:
    """Add to a language's file what is new in English and take out what is said no more. Returns how many messages wait."""
    english, path = _catalog(OWN), FOLDER / f"{code}.po"
    before = _catalog(code) if path.exists() else Catalog(locale=code)
    after = Catalog(locale=code, fuzzy=False)
    for message in sorted(english, key=lambda message: str(message.id)):
        if message.id:
            known = before.get(message.id)
            after.add(message.id, known.string if known else "", auto_comments=[_english(message.string)])
    with path.open("wb") as file:
        write_po(file, after, width=0, sort_output=True, omit_header=True)
    head = f'msgid ""\nmsgstr ""\n"Language: {code}\\n"\n"Plural-Forms: {after.plural_forms}\\n"\n"Content-Type: text/plain; charset=utf-8\\n"\n\n'
    path.write_text(head + path.read_text("utf-8").replace("#, python-brace-format\n", ""), "utf-8")
    return sum(not message.string or not all(message.string) for message in after if message.id)


def _catalog(code: str) -> Catalog:
    with (FOLDER / f"{code}.po").open("rb") as file:
        return read_po(file, locale=code)


def _english(text: object) -> str:
    """What a translator reads beside the key; of a plural the many."""
    return str(text) if isinstance(text, str) else str(list(text)[-1])  # type: ignore[call-overload]


def main() -> int:
    """Bring the language that is named up to date."""
    if len(sys.argv) != 2 or not re.fullmatch(r"[a-z]{2,3}(_[A-Z]{2})?", sys.argv[1]):
        print("name one language, such as: bin/messages de", file=sys.stderr)
        return 2
    print(f"{bring_up_to_date(sys.argv[1])} messages wait to be translated in vane_check/languages/{sys.argv[1]}.po")
    return 0


if __name__ == "__main__":
    sys.exit(main())
