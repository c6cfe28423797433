"""Every figure of every rung, at every pace, left in every way, on a page that is as fast as it is or slowed: what is kept
must be what was typed. A short cut of it is in the tests.

    .venv/bin/python -m bench.keys [--every 3] [--slow 6]
"""

import argparse
import time
import unittest

from tests.screens.figures import Figures, cases


class Keys(Figures):
    """All of them, or each so-many-th."""

    every = 1
    slow = 1.0

    def test_all(self) -> None:
        """Play them; a line for each that went wrong, and a count."""
        page = self.page(None)
        tag = self.taken_in(page)
        if self.slow > 1:
            self.slowed(page, self.slow)
        began, faults = time.monotonic(), 0
        played = list(cases(self.every))
        for case in played:
            fault = self.play(page, tag, case)
            if fault is not None:
                faults += 1
                print(fault, flush=True)
        print(f"{len(played)} figures typed, {faults} kept as something else, {time.monotonic() - began:.0f} s")
        if faults:
            self.fail("a figure was kept as something else")


def main() -> int:
    """0 when every figure was kept as typed."""
    parser = argparse.ArgumentParser(prog="bench.keys")
    parser.add_argument("--every", type=int, default=1, help="only each so-many-th case")
    parser.add_argument("--slow", type=float, default=1.0, help="how many times slower the page runs")
    asked = parser.parse_args()
    Keys.every, Keys.slow = asked.every, asked.slow
    result = unittest.TextTestRunner(verbosity=0).run(unittest.defaultTestLoader.loadTestsFromTestCase(Keys))
    return 0 if result.wasSuccessful() else 1


if __name__ == "__main__":
    raise SystemExit(main())
