"""Evidence: one module per kind of reading. Reading + what is known + rules -> finding."""

from .case import Case, last_until
from .found import finding

__all__ = ["Case", "finding", "last_until"]
