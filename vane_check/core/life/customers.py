"""Whether two entries may be one person: by phone however it is written, by plate, by a name written nearly the same."""

import re
from typing import NamedTuple

from ..tables import customer_figures
from ..words import Words, say


class Written(NamedTuple):
    """Whom somebody wrote in: name, phone and plate as typed; each may be empty."""

    name: str
    phone: str
    plate: str


def phone_key(phone: str) -> str:
    """The digits by which a phone number is known, without country and area; empty where there are too few to tell.

    >>> phone_key("+49 171 555 01 92") == phone_key("0171/5550192")
    True
    >>> phone_key("12")
    ''
    """
    tail = int(customer_figures()["phone_tail_digits"])
    digits = re.sub(r"\D", "", phone)
    return digits[-tail:] if len(digits) >= tail else ""


def plate_key(plate: str) -> str:
    """A plate without what people write between its signs.

    >>> plate_key("vk-et 182")
    'VKET182'
    """
    return re.sub(r"[^0-9A-Z]", "", plate.upper())


def name_key(name: str) -> str:
    """A name in small letters, with single spaces.

    >>> name_key(" Hill  Farm ")
    'hill farm'
    """
    return " ".join(name.lower().split())


def threes(name: str) -> frozenset[str]:
    """The threes of letters of each word, as PostgreSQL's pg_trgm counts them: two spaces before a word, one behind it.

    >>> sorted(threes("Ida"))
    ['  i', ' id', 'da ', 'ida']
    """
    words = re.findall(r"\w+", name.lower())
    return frozenset(padded[at : at + 3] for word in words for padded in [f"  {word} "] for at in range(len(word) + 1))


def name_likeness(one: str, other: str) -> float:
    """Shared threes over all threes, 0 to 1."""
    ours, theirs = threes(one), threes(other)
    return len(ours & theirs) / len(ours | theirs) if ours and theirs else 0.0


def is_one(one: Written, other: Written) -> bool:
    """Surely one person: the same name and the same phone, or name, plate and no word against it."""
    if not name_key(one.name) or name_key(one.name) != name_key(other.name):
        return False
    phones = phone_key(one.phone), phone_key(other.phone)
    if all(phones):
        return phones[0] == phones[1]
    return bool(plate_key(one.plate)) and plate_key(one.plate) == plate_key(other.plate)


def why_alike(one: Written, other: Written) -> Words | None:
    """Why two may be one person, in words; None where nothing speaks for it. A person decides."""
    if phone_key(one.phone) and phone_key(one.phone) == phone_key(other.phone):
        return say("customers.the_same_phone")
    if plate_key(one.plate) and plate_key(one.plate) == plate_key(other.plate):
        return say("customers.the_same_plate")
    likeness = name_likeness(one.name, other.name)
    if likeness >= 1:
        return say("customers.the_same_name")
    return say("customers.nearly_the_same_name") if likeness >= customer_figures()["name_likeness"] else None
