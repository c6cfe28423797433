"""The corpus of checks reads as it was written down; whoever changes a judgement sees here which, and writes it down anew."""

import json
import unittest

from tests.core.corpus import FILE, answer
from vane_check.core.findings.kinds import Kind, StepKey
from vane_check.core.findings.outcomes import Outcome

LINES = [json.loads(line) for line in FILE.read_text(encoding="utf-8").splitlines()]


class Corpus(unittest.TestCase):
    def test_every_judgement_is_as_it_was_read_and_kept(self) -> None:
        self.maxDiff = 4000
        for number, line in enumerate(LINES):
            found = answer(line)
            kept = {name: line[name] for name in found}
            if json.loads(json.dumps(found)) != kept:
                with self.subTest(line=number + 1):
                    self.assertEqual(
                        json.loads(json.dumps(found)), kept, "python -m tests.core.corpus, then read the difference"
                    )

    def test_it_reaches_every_outcome_and_every_kind_of_finding(self) -> None:
        judged = [line["judgement"] for line in LINES]
        self.assertEqual({one["outcome"] for one in judged}, {outcome.value for outcome in Outcome})
        kinds = {found["kind"] for one in judged for found in one["findings"]}
        self.assertEqual(kinds, {kind.value for kind in Kind} - {"withdrawal"})
        self.assertGreaterEqual(len({one["next_step"]["key"] for one in judged} & {key.value for key in StepKey}), 14)
