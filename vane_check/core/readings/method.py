"""A method: how one kind of reading is taken, declared once. Every set that the judgement, the API and the screens need follows."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from ..findings.kinds import Kind, StepKey
from ..words import Words
from .base import Reading

Starting = Literal["quick", "deciding"]


@dataclass(frozen=True, kw_only=True)
class Method:
    """One way of reading a battery. What is not said is the careful side: closed on an unsafe battery, spoiled by dirt and dryness.

    `read_with` is what it is read with, as equipment is named in `steps.tools_at_hand`; None is eyes and hands.
    """

    reading: type[Reading]
    title: Words
    """What the bench calls it, in one or two words."""
    read_with: str | None
    asked_by: StepKey | None = None
    """The step that asks for it where the house decides by it."""
    opened_by: frozenset[StepKey] = frozenset()
    """Steps that are done by reading it: each opens its rung. `asked_by` is one of them."""
    counted_for: frozenset[StepKey] | None = None
    """Steps that were done once more for each of these readings, so that no chain runs for ever; None is those that open it."""
    again_by: StepKey = StepKey.MEASURE_VOLTS
    """The step that asks for it once more when what stood in the way is gone."""
    hands_on: bool = True
    """It puts hands, clamps or current on the battery: closed while that is unsafe."""
    through_posts: bool = True
    """It reads through the posts: cleaning them comes before it."""
    corrosion_spoils: bool = True
    """A failing figure read through corroded posts condemns nothing."""
    needs_acid: bool = True
    """Covering the plates comes before it."""
    dryness_spoils: bool = True
    """A failing figure read with too little acid, or of fresh water, condemns nothing."""
    starting: Starting | None = None
    """A test of starting; a quick one leaves open what the deciding one settles."""
    loads: bool = False
    """It puts a load on: that takes surface charge, and fails a battery that was only flat."""
    shows_health: bool = False
    """It can show that the battery does its work. A starting test does."""

    @property
    def kind(self) -> Kind:
        """What its findings are called."""
        return Kind(str(self.reading.model_fields["kind"].default))

    @property
    def counts_for(self) -> frozenset[StepKey]:
        """Steps that were done once more for each of these readings."""
        return self.opened_by if self.counted_for is None else self.counted_for

    def __post_init__(self) -> None:
        """Raises ImportError for a method that contradicts itself."""
        name = self.reading.__name__
        kind = str(self.reading.model_fields["kind"].default)
        if kind not in {known_kind.value for known_kind in Kind}:
            raise ImportError(f"{name}: enter {kind!r} in findings/kinds.py")
        if self.asked_by is not None and self.asked_by not in self.opened_by:
            raise ImportError(f"{name}: the step that asks for it does not open it")
        if self.starting and not self.loads and self.read_with != "tester":
            raise ImportError(f"{name}: a test of starting puts a load on, or is a tester's")


def kinds_of(methods: Iterable[Method]) -> frozenset[Kind]:
    """What the findings of these methods are called."""
    return frozenset(method.kind for method in methods)
