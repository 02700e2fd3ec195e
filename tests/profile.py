"""How much is tried: quick (for every change, always alike) or thorough (`./run test --thorough`, before a release, each run anew)."""

import os
import random
from collections.abc import Callable
from typing import Any, TypeVar

from hypothesis import HealthCheck, settings

THOROUGH = bool(os.environ.get("VARISTRAT_TEST_THOROUGH"))
SHARE = 0.25
"""Of the thorough profile's examples, those that the quick one tries."""
LEAST = 8
T = TypeVar("T")

# a machine that tests beside others stands still for seconds: that says nothing of what is tested
_QUIET = {"deadline": None, "suppress_health_check": [HealthCheck.too_slow, HealthCheck.function_scoped_fixture]}
settings.register_profile("quick", derandomize=True, database=None, **_QUIET)  # type: ignore[arg-type]
settings.register_profile("thorough", **_QUIET)  # type: ignore[arg-type]
settings.load_profile("thorough" if THOROUGH else "quick")


def quick_or(quick: T, thorough: T) -> T:
    """What is tried in the one profile and in the other."""
    return thorough if THOROUGH else quick


def examples(thorough: int) -> Callable[[Any], Any]:
    """Of a property: how many examples the thorough profile draws; the quick one a quarter of them, and always the same."""
    return settings(max_examples=quick_or(max(LEAST, round(SHARE * thorough)), thorough))


def seed(usual: int) -> int:
    """Of a test's own numbers: the usual one, or a fresh one that is printed where the test fails."""
    if not THOROUGH:
        return usual
    fresh = random.SystemRandom().randrange(2**31)
    print(f"seed {fresh}")
    return fresh
