"""Languages: one file a language (`de.po`), for screens and papers. English is what the code itself is written in.

Another language is another file here: `bin/messages fr` begins it with every message, a translator fills it in, and it can be
chosen on the House desk after the next start. A message is its own key; `{0}` stands for what is put in.
"""

import hashlib
from functools import cache
from pathlib import Path
from typing import NamedTuple

from babel import Locale
from babel.messages.pofile import read_po

from .reader import Reader

FOLDER = Path(__file__).parent
OWN = "en"
OWN_NAME = "English"


class Catalogue(NamedTuple):
    """A language: its messages, how its place writes days and figures, and a mark that changes with it."""

    code: str
    name: str
    locale: str
    edition: str
    messages: dict[str, str]
    older: dict[str, str]
    """What older releases said: sentences of theirs were kept, and are read still."""

    @property
    def known(self) -> dict[str, str]:
        """All it can say."""
        return {**self.older, **self.messages}


@cache
def catalogues() -> dict[str, Catalogue]:
    """Every language there is a file for, by its code."""
    return {path.stem: _read(path) for path in sorted(FOLDER.glob("*.po"))}


def _read(path: Path) -> Catalogue:
    told = path.read_bytes()
    with path.open("rb") as file:
        found = read_po(file, locale=path.stem)
    older, messages = (
        {str(one.id): str(one.string) for one in of if one.id and isinstance(one.string, str) and one.string.strip()}
        for of in (found.obsolete.values(), found)
    )
    name = Locale.parse(path.stem).get_language_name(path.stem) or path.stem
    return Catalogue(
        path.stem,
        name.capitalize(),
        path.stem.replace("_", "-"),
        hashlib.sha256(told).hexdigest()[:12],
        messages,
        older,
    )


def names() -> dict[str, str]:
    """Every language that can be chosen, by its code, as it calls itself."""
    return {OWN: OWN_NAME, **{code: one.name for code, one in catalogues().items()}}


@cache
def reader_of(code: str) -> Reader | None:
    """What reads sentences in a language; None for English and for one there is no file for."""
    found = catalogues().get(code)
    return None if found is None else Reader(found.known, found.locale)


def load() -> None:
    """Read every file now; its sentences are learned when the first page asks for them, which needs no file."""
    catalogues()
