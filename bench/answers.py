"""What the core says of checks made by chance, a line each: written before a change and after it, and compared.

`python -m bench.answers FILE [--checks 1500]`. Not a test: what we answered yesterday is no truth; a line that differs is to be read.
"""

import argparse
import json
from pathlib import Path

from tests.core.made_checks import made_checks
from vane_check.core.facts.case import Case
from vane_check.core.house.rules import house_rules
from vane_check.core.judging.judgement import assess
from vane_check.core.judging.limits import limits_of
from vane_check.core.readings.check import Check


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("file", type=Path)
    parser.add_argument("--checks", type=int, default=1500)
    asked = parser.parse_args()
    with asked.file.open("w", encoding="utf-8") as out:
        for made in made_checks(asked.checks):
            check, rules = Check.model_validate(made["check"]), house_rules(made["school"])
            answer = {
                "judgement": assess(check, rules).model_dump(mode="json"),
                "limits": limits_of(Case.of(check, rules)).model_dump(mode="json"),
            }
            print(json.dumps(answer, sort_keys=True, ensure_ascii=False), file=out)


if __name__ == "__main__":
    main()
