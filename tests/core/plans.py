"""Hardening plans to try things on."""

from typing import Any

from varistrat.core.heat.hardening.hardening import BladeHardening as Plan
from varistrat.core.heat.hardening.hardening import Hardening, of_design
from varistrat.core.heat.hardening.plan import hardening_plan
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.steels import built_in

STEELS = built_in()


def plan(
    carbon: dict[str, float],
    at: tuple[str, ...] | None = None,
    spine: float = 4.0,
    materials: tuple[str, ...] = (),
    shop: ShopData = AS_SHIPS,
    **said: Any,
) -> Plan:
    return of_design(Hardening(**said), carbon, at or tuple(carbon), spine, 200.0, 35.0, 180.0, materials, shop)


def found(w: Plan) -> dict[str, str]:
    return {f.code: f.grade for s in hardening_plan(w) for f in s.findings}


def step(w: Plan, key: str) -> Any:
    return next(s for s in hardening_plan(w) if s.key == key)
