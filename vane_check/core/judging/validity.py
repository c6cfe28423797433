"""Where a formula was fed with what it was not made for: said, not held at its end in silence."""

from dataclasses import dataclass
from functools import cache

from ..facts.case import Case
from ..findings.outcomes import Finding
from ..readings import AnyReading
from ..tables import Validity, validity
from ..words import Words, cited, listed


@dataclass(frozen=True, slots=True, kw_only=True)
class OutsideValidity:
    """A figure that lies outside what a formula was made for; it was worked out as if the figure were at the near end."""

    formula: str
    words: Words
    value: float
    low: float
    high: float
    unit: Words
    source: Words
    standing: str


def outside_validity(findings: tuple[Finding, ...], case: Case) -> tuple[OutsideValidity, ...]:
    """Each formula that a reading of this case goes beyond, once, in the order of the readings; where its finding fell off
    it is not asked.

    Source: tables/validity.csv.
    """
    count = len(case.readings)
    read, beside = findings[:count], findings[count:]  # one of each reading, then what is derived
    result: dict[tuple[str, str], OutsideValidity] = {}
    for reading, finding in zip(case.readings, read, strict=True):
        for row in _by_method().get(reading.kind, ()):
            value = _figure(row.figure, reading, case)
            if value is None or row.low <= value <= row.high:
                continue
            of = (
                [finding]
                if row.finding == reading.kind
                else [finding for finding in beside if finding.kind == row.finding]
            )
            if any(finding.status != "dropped" for finding in of):
                result.setdefault((row.formula, row.figure), _outside(row, value))
    return tuple(result.values())


@cache
def _by_method() -> dict[str, list[Validity]]:
    rows: dict[str, list[Validity]] = {}
    for row in validity():
        rows.setdefault(row.method, []).append(row)
    return rows


def _figure(name: str, reading: AnyReading, case: Case) -> float | None:
    """A figure of a reading, as it is worked with: warmth not read beside it is the battery's."""
    if name == "amps_per_ah":
        amps, capacity = getattr(reading, "amps", None), case.battery.capacity_ah_20h
        return amps / capacity if amps is not None and capacity else None
    value: float | None = case.temperature_at(reading) if name == "temperature_c" else getattr(reading, name)
    return value


def _outside(row: Validity, value: float) -> OutsideValidity:
    return OutsideValidity(
        formula=row.formula, words=row.words, value=round(value, 3), low=row.low, high=row.high, unit=listed("unit", row.unit),
        source=cited(row.origin.source), standing=row.origin.standing,
    )  # fmt: skip
