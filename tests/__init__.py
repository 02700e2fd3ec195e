"""The tests: of the core, the apps, the API, and in the real browser."""

from hypothesis import HealthCheck, settings

# a machine that tests beside others stands still for seconds: that says nothing of what is tested
settings.register_profile("busy", suppress_health_check=[HealthCheck.too_slow], deadline=None)
settings.load_profile("busy")
