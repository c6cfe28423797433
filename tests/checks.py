"""The checks of the source by name: format, lint, types, layers; each a command that says what is wrong and fails."""

from collections.abc import Sequence
from pathlib import Path

PYTHON = [".venv/bin/python", "-m"]
CHECKS: dict[str, Sequence[str]] = {
    "mypy strict": [*PYTHON, "mypy", "vane_check", "bench"],
    "eslint": ["npm", "--prefix", "front", "run", "-s", "lint"],
    "tsc strict": ["npm", "--prefix", "front", "run", "-s", "types"],
    "prettier": ["npm", "--prefix", "front", "run", "-s", "format"],
    "layers (import contract)": [".venv/bin/lint-imports"],
    "ruff lint": [*PYTHON, "ruff", "check", "vane_check", "tests", "bench"],
    "ruff format": [*PYTHON, "ruff", "format", "--check", "vane_check", "tests", "bench"],
}
ROOT = Path(__file__).parents[1]
