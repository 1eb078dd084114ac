"""All tests; the folders mirror the source."""

from hypothesis import HealthCheck, settings

import zittern  # noqa: F401 (before numpy: it says how many threads that takes)

# How long examples take says nothing about them: no test depends on the clock, however busy the machine is.
settings.register_profile("unhurried", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("unhurried")
