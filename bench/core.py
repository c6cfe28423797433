"""How many judgements a second one process makes, with the usual readings and with every kind: `python -m bench.core`.

Decided is what a replay of past checks asks for: outcome, headline, jobs, next step. Whole is what a desk and a slip ask for.
"""

import time
from pathlib import Path

from vane_check.core.house.rules import house_rules
from vane_check.core.judging.judgement import assess, judge
from vane_check.core.readings.check import parse_check

FORMATS = Path(__file__).parents[1] / "docs" / "formats"
ROUNDS = 5_000
TAKES = 3
"""The best take counts: the others measure what else the machine was doing."""


def main() -> None:
    rules = house_rules()
    for name in ("example.json", "example-full.json"):
        check = parse_check((FORMATS / name).read_text())
        rates = {}
        for work in (judge, assess):
            work(check, rules)
            took = []
            for _ in range(TAKES):
                began = time.perf_counter()
                for _ in range(ROUNDS):
                    work(check, rules)
                took.append(time.perf_counter() - began)
            rates[work] = ROUNDS / min(took)
        print(f"{len(check.readings)} readings: {rates[judge]:.0f} decided a second, {rates[assess]:.0f} judged whole")


if __name__ == "__main__":
    main()
