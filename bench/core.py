"""How many judgements a second one process makes: `python -m bench.core`."""

import time
from pathlib import Path

from vane_check.core.check import parse_check
from vane_check.core.judgement import assess
from vane_check.core.rules import house_rules

EXAMPLE = Path(__file__).parents[1] / "docs" / "formats" / "example.json"
ROUNDS = 10_000


def main() -> None:
    check, rules = parse_check(EXAMPLE.read_text()), house_rules()
    assess(check, rules)
    began = time.perf_counter()
    for _ in range(ROUNDS):
        assess(check, rules)
    print(f"{ROUNDS / (time.perf_counter() - began):.0f} judgements a second ({len(check.readings)} readings each)")


if __name__ == "__main__":
    main()
