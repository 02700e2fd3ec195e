"""Figures that the cues read: of the design as it is worked out, and of the log of its build. One that is not known is left out."""

from collections.abc import Callable, Mapping, Sequence
from datetime import datetime

import numpy as np

from varistrat.core.blade.measures import FOR_USE
from varistrat.core.build.state import BuildState, OperationState
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.finish.cycles import etch_plan
from varistrat.core.finish.purpose import suggested_for
from varistrat.core.finish.tone_apart import tone_apart
from varistrat.core.laws.numbers import EDGES
from varistrat.core.route.operation import Operation
from varistrat.core.steels.flow import stiffness_ratio
from varistrat.core.stock.sheet import stock_of

Reader = Callable[[Worked], float | None]
LogReader = Callable[[Sequence[Operation], BuildState], float | None]


def _outer_layer(w: Worked) -> float | None:
    found = [min(layers[0][1], layers[-1][1]) for bar in w.bars.values() for layers in bar.start.piles() if len(layers) > 1]
    return min(found, default=None)


def _weld_margin(w: Worked) -> float | None:
    solidus = [w.shop.steels[k].solidus for k in w.fire.steels]
    return min(solidus) - w.fire.weld if solidus else None


def _weld_above_low(w: Worked) -> float | None:
    lows = [s.weld[0] for k in w.fire.steels if (s := w.shop.steels[k]).weld]
    return w.fire.weld - max(lows) if lows else None


def _shear(w: Worked) -> float | None:
    return max((s.step.heat_demand(s.before, s.after).shear for bar in w.bars.values() for s in bar.stages), default=None)


def _stiffness(w: Worked) -> float | None:
    steels = [w.shop.steels[k] for k in w.forged.steels]
    return max((stiffness_ratio(a, b) for a in steels for b in steels), default=None)


def _nickel(w: Worked) -> float | None:
    return max((w.shop.steels[k].share("Ni") for k in w.forged.steels), default=None)


def _relief_before_twist(w: Worked) -> float:
    for bar in w.bars.values():
        figured = False
        for s in bar.stages:
            if figured and s.step.undoes_surface:
                return 1.0
            figured = figured or s.step.surface_figure
    return 0.0


def _edge_over_least(w: Worked) -> float | None:
    return w.hardening.edge - EDGES[w.hardening.quench][0] if w.cut and w.hardening.hardeners else None


def _bath(code: str) -> Reader:
    def read(w: Worked) -> float | None:
        if not w.cut or not w.hardening.hardeners:
            return None
        return float(any(f.code == code for step in w.hardening_steps for f in step.findings))

    return read


def _slender(w: Worked) -> float | None:
    g = w.cut.geometry if w.cut else None
    return g.length / g.blade.spine_thickness.most if g else None


def _edge_soft(w: Worked) -> float | None:
    return float(any(not w.shop.steels[k].hardening for k in w.at_edge)) if w.cut else None


def _retained(w: Worked) -> float | None:
    found = [p.quenched.retained[1] for p in w.hardening.parts if p.edge and p.quenched and p.quenched.retained] if w.cut else []
    return max(found, default=None)


def _hard_for_use(w: Worked) -> float | None:
    hard = w.hardening.planned if w.cut else None
    return hard - suggested_for(w.document.finish.use).hardness[1] if hard is not None else None


def _edge_for_use(w: Worked) -> float | None:
    if not w.cut:
        return None
    grind = w.cut.geometry.blade.grind
    return (grind.right.edge_thickness + grind.left.edge_thickness) / 2 - FOR_USE[w.document.finish.use][0]


def _undercut(w: Worked) -> float | None:
    if not w.cut or not w.thinnest:
        return None
    return 2e-3 * etch_plan(w).etched.deepest / w.thinnest


DESIGN: Mapping[str, Reader] = {
    "outer_layer": _outer_layer,
    "weld_margin": _weld_margin,
    "weld_above_low": _weld_above_low,
    "joint": lambda w: w.fire.joint,
    "shear": _shear,
    "stiffness_ratio": _stiffness,
    "nickel_most": _nickel,
    "contrast": lambda w: tone_apart(w),
    "finest": lambda w: w.thinnest if w.cut else None,
    "relief_before_twist": _relief_before_twist,
    "edge_over_least": _edge_over_least,
    "bath_faster": _bath("too_fast"),
    "bath_slower": _bath("too_slow"),
    "slender": _slender,
    "is_laminate": lambda w: float(w.cut.core is not None) if w.cut else None,
    "edge_soft": _edge_soft,
    "edge_steels": lambda w: float(len(w.at_edge)) if w.cut else None,
    "retained": _retained,
    "hard_for_use": _hard_for_use,
    "edge_for_use": _edge_for_use,
    "spare": lambda w: stock_of(w).spare if w.cut else None,
    "undercut": _undercut,
}
"""By the name a cue reads it under."""


def _ratio(ops: Sequence[Operation], state: BuildState, quantity: str) -> float | None:
    pairs = [(t.value, m) for o in ops for t in o.targets if t.quantity == quantity and (m := state.of(o.id).last(t.quantity)) is not None]
    planned = sum(p for p, _ in pairs)
    return sum(m for _, m in pairs) / planned if planned > 0 else None


def _off(quantity: str) -> LogReader:
    def read(ops: Sequence[Operation], state: BuildState) -> float | None:
        off = [m - t.value for o in ops for t in o.targets if t.quantity == quantity and (m := state.of(o.id).last(t.quantity)) is not None]
        return float(np.mean(off)) if off else None

    return read


def _checked_badly(ops: Sequence[Operation], state: BuildState) -> float | None:
    answers = [good for o in ops if o.kind == "fire" for good in state.of(o.id).answers.values()]
    return float(not all(answers)) if answers else None


def _skipped(name: str) -> LogReader:
    def read(ops: Sequence[Operation], state: BuildState) -> float | None:
        found = [state.of(o.id).standing for o in ops if o.id.endswith(name)]
        return float("skipped" in found) if any(s != "open" for s in found) else None

    return read


def _waited(ops: Sequence[Operation], state: BuildState) -> float | None:
    """Minutes from the end of the quench to the end of the temper, less the temper itself."""

    def of(name: str) -> tuple[Operation, OperationState, datetime] | None:
        for o in ops:
            said = state.of(o.id)
            if o.id.endswith(name) and said.standing == "done" and said.ended:
                return o, said, said.ended
        return None

    quench, temper = of("-quench"), of("-temper")
    if not quench or not temper:
        return None
    return max(0.0, (temper[2] - quench[2]).total_seconds() / 60 - temper[0].alone)


LOG: Mapping[str, LogReader] = {
    "heats_over": lambda ops, state: _ratio(ops, state, "heats"),
    "hardness_off": _off("hardness"),
    "thickness_off": _off("thickness"),
    "weld_check_bad": _checked_badly,
    "normalise_skipped": _skipped("-normalise"),
    "temper_waited": _waited,
}
"""By the name a cue reads it under."""


def figures_of(worked: Worked | None, ops: Sequence[Operation] = (), state: BuildState | None = None) -> dict[str, float]:
    """All that is known; what cannot be worked out of a design that is not finished says nothing."""
    out: dict[str, float] = {}
    for name, read in DESIGN.items() if worked else ():
        try:
            value = read(worked)  # type: ignore[arg-type]
        except InputError:
            continue
        if value is not None:
            out[name] = float(value)
    for name, read_log in LOG.items() if state else ():
        found = read_log(ops, state)  # type: ignore[arg-type]
        if found is not None:
            out[name] = float(found)
    return out
