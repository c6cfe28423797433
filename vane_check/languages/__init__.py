"""Languages: one file a language (`en.po`, `de.po`), a message by its key, for screens and papers.

Another language is another file here: `bin/messages fr` begins it with every message, a translator fills it in, and it can be
chosen on the House desk after the next start. `{volts}` in a message is the figure of that name.
"""

import gettext
import hashlib
from functools import cache
from pathlib import Path
from typing import NamedTuple

from babel import Locale
from babel.messages.catalog import Catalog
from babel.messages.pofile import read_po

from .speak import ENGLISH_LOCALE, Message, Speaker

FOLDER = Path(__file__).parent
OWN = "en"
OWN_NAME = "English"


class Catalogue(NamedTuple):
    """A language: its messages, how its place writes days and figures, and a mark that changes with it."""

    code: str
    name: str
    locale: str
    edition: str
    messages: dict[str, Message]
    plural: str
    """The rule of gettext by which a number picks its plural."""

    @property
    def for_pages(self) -> dict[str, str]:
        """The messages as pages read them: a plural under its key with what Unicode calls it, `one` or `other`."""
        result = {}
        for key, message in self.messages.items():
            if isinstance(message, str):
                result[key] = message
            else:
                result |= {f"{key}_{name}": said for name, said in zip(_plurals(self), message, strict=True)}
        return result


def _plurals(catalogue: Catalogue) -> list[str]:
    """What Unicode calls each plural form of gettext, in its order: found by what both make of the first numbers."""
    locale, form = Locale.parse(catalogue.code), gettext.c2py(catalogue.plural)
    names: dict[int, str] = {}
    for number in range(200):
        names.setdefault(form(number), locale.plural_form(number))
    return [names[place] for place in sorted(names)]


@cache
def catalogues() -> dict[str, Catalogue]:
    """Every language there is a file for, by its code."""
    return {path.stem: _read(path) for path in sorted(FOLDER.glob("*.po"))}


def _read(path: Path) -> Catalogue:
    content = path.read_bytes()
    with path.open("rb") as file:
        catalog = read_po(file, locale=path.stem)
    locale = ENGLISH_LOCALE if path.stem == OWN else path.stem.replace("_", "-")
    name = Locale.parse(path.stem).get_language_name(path.stem) or path.stem
    edition = hashlib.sha256(content).hexdigest()[:12]
    return Catalogue(path.stem, name.capitalize(), locale, edition, _messages(catalog), catalog.plural_expr)


def _messages(catalog: Catalog) -> dict[str, Message]:
    """What is written in it; a message of which a plural is missing is not."""
    result: dict[str, Message] = {}
    for message in catalog:
        if isinstance(message.id, str):
            if message.id and message.string:
                result[message.id] = str(message.string)
        elif message.id and message.string and all(message.string):
            result[message.id[0]] = tuple(message.string)
    return result


def names() -> dict[str, str]:
    """Every language that can be chosen, by its code, as it calls itself."""
    return {OWN: OWN_NAME, **{code: catalogue.name for code, catalogue in catalogues().items()}}


@cache
def speaker_of(code: str) -> Speaker:
    """What says messages in a language; English for one there is no file for."""
    catalogue = catalogues().get(code) or catalogues()[OWN]
    return Speaker(catalogue.messages, catalogue.locale, gettext.c2py(catalogue.plural))


def load() -> None:
    """Read every file now: a page or a paper that is asked for later needs no file."""
    for code in catalogues():
        speaker_of(code)
