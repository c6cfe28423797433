"""Every figure of every rung, at every pace, left in every way, on a page that is as fast as it is or slowed: what is kept
must be what was typed. A short cut of it is in the tests.

    .venv/bin/python -m bench.keys [--every 3] [--slow 6]
"""

import runpy

if __name__ == "__main__":
    runpy.run_module("tests.screens.figures", run_name="__main__")
