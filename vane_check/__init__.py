"""Vane Check: is it discharged, worn out, or not the battery at all?"""

__version__ = "0.1.0"
