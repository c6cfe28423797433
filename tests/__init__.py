"""Every test. What is drawn by chance is the same everywhere."""

from hypothesis import HealthCheck, settings

from tests.english import read_in_english

# The same examples on every machine, however slow: a find of chance belongs at a desk, not in another one's change.
settings.register_profile(
    "same everywhere", derandomize=True, deadline=None, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("same everywhere")

read_in_english()
