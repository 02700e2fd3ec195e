"""What a test etch of a design says, and what to do about it."""

from dataclasses import dataclass
from typing import Any

import numpy as np

from varistrat.core.blade.geometry import SIDES
from varistrat.core.design.worked import Worked
from varistrat.core.laminate.exposure import stations
from varistrat.core.laminate.readings import must_be_of
from varistrat.core.study.correction import Unmet, correct
from varistrat.core.study.inference import Help, infer
from varistrat.core.study.lamina import Lamina

STATIONS = 40


@dataclass(frozen=True)
class InferenceSheet:
    """Heights vertical mm; shares of the local thickness, offsets + right; sd: standard deviations.

    lines: per side the 5, 50 and 95 % of the line at x. removal: mm at stations `plan_x`; as_read, corrected: the blade (as JSON) as it
    was read, and as it would then be.
    """

    x: list[float]
    share: list[float]
    share_sd: list[float]
    offset: list[float]
    offset_sd: list[float]
    thickness: list[float]
    mean_share: list[float]
    mean_offset: list[float]
    rest: dict[str, float]
    rest_sd: dict[str, float]
    misfit: float
    helps: list[Help]
    lines: dict[str, list[list[float]]]
    plan_x: list[float]
    removal: dict[str, list[float]]
    before: dict[str, list[float]]
    after: dict[str, list[float]]
    wanted: list[list[float]]
    unmet: list[Unmet]
    edge_left: list[float]
    spine_left: list[float]
    shorten: float
    as_read: dict[str, Any]
    corrected: dict[str, Any]


def inference_sheet(worked: Worked) -> InferenceSheet:
    """Raises InputError without a blade, a flat core, or readings of the faces as they are."""
    document, cut = worked.document, worked.blade
    must_be_of(document.readings, cut.geometry.blade)
    lamina = Lamina.of(cut, stations(cut.geometry, STATIONS))
    found = infer(lamina, document.readings, document.sizes)
    plan = correct(found, document.aim)
    as_read = plan.blade.model_copy(update={"correction": cut.geometry.blade.correction}).as_json()
    forged = cut.geometry.faces(lamina.x, np.ones_like(lamina.x)).forged
    return InferenceSheet(
        lamina.x.tolist(),
        found.share.tolist(),
        found.share_sd.tolist(),
        found.offset.tolist(),
        found.offset_sd.tolist(),
        forged.tolist(),
        list(found.mean_share),
        list(found.mean_offset),
        found.rest,
        found.rest_sd,
        found.misfit,
        found.helps,
        {s: [v.tolist() for v in found.lines[s]] for s in SIDES},
        plan.x,
        plan.removal,
        plan.before,
        plan.after,
        [list(w) for w in plan.wanted],
        plan.unmet,
        plan.edge_left,
        plan.spine_left,
        plan.shorten,
        as_read,
        plan.blade.as_json(),
    )
