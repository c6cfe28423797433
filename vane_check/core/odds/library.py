"""The library: simulated batteries by type, each with what is really the matter; made once by `python -m bench.odds library`."""

from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from io import BytesIO

import numpy as np
from numpy.typing import NDArray

from ..findings.outcomes import Outcome

Array = NDArray[np.float64]

LEAST_SHARE = 1e-6
"""Odds are never quite none: a logit of less says nothing."""

CLASSES = (Outcome.SOUND, Outcome.WORN_OUT, Outcome.DEAD_CELL, Outcome.LEAKS_CHARGE)
"""What a battery can be. One that only holds too little counts as worn out."""

FIELDS = (
    "charge", "temperature_c", "strength", "capacity", "top_charge", "gravity_full", "cold_doubles_per_c", "tester_reads", "weak_by",
    "shorted_cells", "open_link", "leak_per_hour", "cell_leak_per_hour", "cell_charge_lost", "layered", "dry", "sunk_volts",
    "fast_volts", "slow_volts", "left_by_charge_volts", "slow_share", "fast_hours", "slow_hours", "lamps_leave", "starter_share",
    "efficiency", "ends_at_amps_per_ah", "ah_per_cca",
)  # fmt: skip
"""What is kept of each, a column each; `kind` beside them says which of CLASSES it is."""


@dataclass
class Batteries:
    """So many batteries at once: what each is, and how it stands at this moment of a check."""

    kind: NDArray[np.int64]
    columns: dict[str, Array]
    cells: int = 6

    def __getattr__(self, name: str) -> Array:
        """A column by its name."""
        try:
            return self.columns[name]
        except KeyError:
            raise AttributeError(name) from None

    def __len__(self) -> int:
        """How many."""
        return len(self.kind)

    def copy(self) -> "Batteries":
        """The same, to be changed."""
        return Batteries(self.kind, dict(self.columns), self.cells)

    def picked(self, places: NDArray[np.int64]) -> "Batteries":
        """Those at these places."""
        columns = {name: column[places] for name, column in self.columns.items()}
        return Batteries(self.kind[places], columns, self.cells)


@cache
def _shipped() -> dict[str, NDArray[np.float32]]:
    with np.load(BytesIO(files(__package__).joinpath("library.npz").read_bytes())) as kept:
        return {name: kept[name] for name in kept.files}


@cache
def library_of(group: str) -> Batteries:
    """The batteries of a group of types (flooded, efb, agm)."""
    table = _shipped()[group].astype(np.float64)
    columns = {name: np.ascontiguousarray(table[:, place + 1]) for place, name in enumerate(FIELDS)}
    return Batteries(table[:, 0].astype(np.int64), columns)


@cache
def _calibration() -> NDArray[np.float32]:
    return _shipped()["calibration"]


def terms(logits: Array) -> Array:
    """What a calibration adds up for each logit: one, the logit, and its bend about even odds. Shape: logits by three."""
    return np.stack([np.ones_like(logits), logits, np.tanh(logits)], axis=-1)


def set_right(sound: Array, is_ended: bool) -> Array:
    """Logits of the odds of a sound one as they are true: while a check is open, and where its rules have ended it. Fitted on seeds
    that no figure comes from (Platt 1999, with a bend)."""
    share = np.clip(sound, LEAST_SHARE, 1 - LEAST_SHARE)
    return np.asarray(terms(np.log(share / (1 - share))) @ _calibration()[int(is_ended)])
