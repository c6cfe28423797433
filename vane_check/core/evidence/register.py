"""Every kind of reading has one module here that reads it: all of them are found, and none may be missing."""

from importlib import import_module
from pkgutil import iter_modules

from ..facts.case import Case
from ..findings.outcomes import Finding
from ..readings import METHODS, AnyReading
from ..words import capital, dated, say
from . import __name__ as here
from . import __path__ as place
from . import obstacles
from .reads import FINDERS

for _found in iter_modules(place):
    if _found.name != "register":
        import_module(f"{here}.{_found.name}")

if _unread := [method.reading.__name__ for method in METHODS if method.reading not in FINDERS]:
    raise ImportError(f"no module of {here} reads {', '.join(_unread)}")


def find(reading: AnyReading, case: Case) -> Finding:
    """What one reading says in its case, as far as dirt and dryness let it. Raises ValueError for a withdrawal."""
    finder = FINDERS.get(type(reading))
    if finder is None:
        raise ValueError(say("register.a_withdrawal_is_no_evidence"))
    return _overdue(obstacles.weaken(finder(reading, case), reading, case), reading)


def _overdue(finding: Finding, reading: AnyReading) -> Finding:
    """A tool whose check had fallen due says so on what was read with it."""
    used = reading.tool
    if used is None or used.overdue_since is None:
        return finding
    name = used.name or say("register.its_tool")
    return finding.but(
        reading_text=say("register.overdue_for_its_check", reading_text=finding.reading_text, name=name),
        text=say(
            "register.was_due_for_its_check_on",
            finding_text=finding.text,
            name=capital(name),
            overdue_since=dated(used.overdue_since, "%d %b %Y"),
        ),
    )
