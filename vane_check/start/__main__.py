"""`python -m vane_check.start`, as bin/start runs it."""

import gc
import sys


def main() -> int:
    """Load the command and run it. What is loaded stays: looking through it again and again took a sixth of the loading."""
    gc.disable()  # until all is loaded: `command` puts it on again
    from .command import main as run

    return run()


if __name__ == "__main__":
    sys.exit(main())
