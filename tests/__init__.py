"""The tests: of the core, the apps, the API, and in the real browser."""

from tests import profile as profile  # loads how much hypothesis tries
from varistrat.core import limits

# a machine that tests beside others stands still for seconds; tests of the limit set one of their own
limits.MAX_DRAW_SECONDS = 600.0
