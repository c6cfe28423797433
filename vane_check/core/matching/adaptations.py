"""What must be done when a battery goes in, with the millimetres a near one needs."""

from ..house.rules import HouseRules
from .requirement import Candidate, Requirement
from .space import Space, cable_needed_mm, is_named_alike


def spacer_words(space: Space, has: Candidate) -> str | None:
    """The spacer that fills what a case is shorter or narrower; None where none is needed."""
    if space.by_tape is None and is_named_alike(space, has.group_code, has.same_as):
        return None
    room = space.by_tape or space.old
    gaps = [
        f"{gap:.0f} mm of {what}"
        for what, gap in (("length", room.length_mm - has.length_mm), ("width", room.width_mm - has.width_mm))
        if gap > (room.tolerance_mm if space.by_tape else 0)
    ]
    return f"Fit a spacer for {' and '.join(gaps)}, then the hold-down" if gaps else None


def to_do(requirement: Requirement, space: Space, has: Candidate, rules: HouseRules) -> list[str]:
    """Every change this one needs, in the order it is done."""
    jobs = ["Lay old and new side by side before it leaves the counter"]
    if spacer := spacer_words(space, has):
        jobs.append(spacer)
    lower = space.old.height_mm - has.height_mm
    if not is_named_alike(space, has.group_code, has.same_as) and lower > space.old.tolerance_mm:
        jobs.append(f"The hold-down must reach {lower:.0f} mm lower")
    if has.post == "pencil" and space.post == "top":
        jobs.append("Fit shims on the thin posts")
    if space.positive_side not in {None, has.positive_side}:
        jobs.append(f"Lead both cables {cable_needed_mm(has.length_mm, rules):.0f} mm further, clear of metal and heat")
    if requirement.vent_tube:
        jobs.append("Connect the vent tube and take the transit plugs out")
    if requirement.stop_start:
        jobs.append("Register the new battery with the car's battery management, where the maker asks for it")
    return jobs
