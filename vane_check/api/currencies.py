"""Print the decimals of every money for the front end: `python -m vane_check.api.currencies`."""

import json

from ..core.tables import currencies

HEAD = (
    "/** Made by bin/client from the table of currencies: nothing is entered here by hand. Those with 2 are most. */\n"
)


def currencies_text() -> str:
    """The currencies as they are kept in front/src/api/currencies.ts."""
    codes = json.dumps(sorted(currencies()))
    other = json.dumps({code: decimals for code, decimals in sorted(currencies().items()) if decimals != 2})
    return f"{HEAD}export const CURRENCIES: readonly string[] = {codes};\nexport const DECIMALS: Readonly<Record<string, number>> = {other};\n"


if __name__ == "__main__":
    print(currencies_text(), end="")
