"""The tests: of the core, the apps, the API, and in the real browser."""

from tests import profile as profile  # loads how much hypothesis tries
