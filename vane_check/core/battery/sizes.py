"""Sizes: the group or box code in what is printed on a case."""

import re

from ..tables import footprints


def recognised_size(printed: str) -> str | None:
    """The size code in what is printed: a group, a box code, or a JIS type code; None when none is known.

    >>> recognised_size("55D23L"), recognised_size("l3"), recognised_size("group 24f")
    ('D23L', 'LN3', '24F')
    """
    plain = re.sub(r"^(GROUP|GRP|GR|BCI)\s*", "", printed.strip().upper()).replace(" ", "").replace("-", "")
    known = footprints()
    if plain in known:
        return plain
    jis = re.fullmatch(r"[0-9]{2,3}([A-H][0-9]{2}[LR])S?", plain)
    if jis and jis.group(1) in known:
        return jis.group(1)
    box = re.fullmatch(r"L(B?)([0-9])", plain)
    if box:
        code = f"L{'B' if box.group(1) else 'N'}{box.group(2)}"
        return code if code in known else None
    return None
