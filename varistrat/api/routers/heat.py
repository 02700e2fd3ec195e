"""What the fire does to a design's billet, and how its blade is hardened. Nothing is kept."""

from typing import Any

from django.http import HttpRequest
from ninja import Router

from varistrat.api.auth import helper
from varistrat.api.schemas import PROBLEMS, DocumentIn
from varistrat.api.schemas.heat import FireOut, HardeningOut
from varistrat.core.bars.fresh import WORDS
from varistrat.core.design.document import Worked
from varistrat.core.etch.tones import reflectance
from varistrat.core.heat.colours import glow, run_colour
from varistrat.core.heat.fires.fired import Fired
from varistrat.core.heat.fires.homogenisation import evenness
from varistrat.core.heat.hardening.plan import hardening_plan
from varistrat.designs.services import predict

router = Router(tags=["heat"], auth=helper)


@router.post("/fire", response={200: FireOut, **PROBLEMS})
def fire(request: HttpRequest, asked: DocumentIn) -> Any:
    """Every heat of the recipe: how many, how hot, how long, and what they do."""
    worked = predict.work_out(asked.document)
    out = worked.fire
    density = worked.forged.density
    _, put_in = worked.forged.put_in()
    tones = worked.fired_look.tones
    return {
        "steps": [_fired(worked, f, density) for f in out.fired],
        "steels": [
            {
                "key": k, "name": worked.shop.steels[k].name, "grey": reflectance(worked.shop.steels[k].shade), "carbon": worked.shop.steels[k].share("C"), "after": out.carbon.get(k),
                "tone": worked.shop.steels[k].shade, "tone_after": tones.get(k, worked.shop.steels[k].shade),
            }
            for k in out.steels
        ],
        "weld": out.weld, "forge": out.forge, "heats": sum(f.heats for f in out.fired), "hours": out.hours, "scale_mass": out.scale_volume * density,
        "scale_share": out.scale_volume * density / put_in, "element": out.element, "apart": out.apart, "lasts": out.lasts, "contrast": out.contrast, "joint": out.joint,
        "even_in": out.even_in, "edge": {p.steel.key: p.carbon for p in worked.hardening.parts if p.edge} if worked.cut else {},
    }  # fmt: skip


def _fired(worked: Worked, f: Fired, density: float) -> dict[str, Any]:
    height, carbon, steel = f.profile
    said = glow(f.celsius)
    step = next(s for s in worked.document.bar(f.bar).steps if s.id == f.step)
    return {
        "bar": f.bar, "step": f.step, "kind": f.kind, "title": WORDS[f.kind]["name"], "heats": f.heats, "each": f.each, "celsius": f.celsius,
        "glow": said[1] if said else "", "minutes": f.minutes, "soak": f.soak, "atmosphere": f.atmosphere, "scale": f.scale,
        "scale_mass": f.scale_volume * density, "skin": f.skin, "grind": f.grind, "left": f.left, "thinnest": f.thinnest, "layers": f.layers,
        "even": evenness(f.uneven), "carbon": f.carbon, "profile": {"across": f.across, "normal": f.normal, "height": height, "carbon": carbon, "steel": steel, "steels": list(f.carbon)}, "own": f.own,
        "scale_now": step.scale, "caution": f.caution, "spread": f.spread, "findings": [x.as_json() for x in f.findings],
    }  # fmt: skip


@router.post("/hardening", response={200: HardeningOut, **PROBLEMS})
def hardening(request: HttpRequest, asked: DocumentIn) -> Any:
    """The hardening of the blade, step by step, with what the readings so far change."""
    w = predict.work_out(asked.document).hardening
    oven = None if w.temper is None else float(round((w.temper - w.oven) / 5) * 5)
    colour = run_colour(oven + w.oven) if oven is not None else None
    parts = [
        {
            "key": p.steel.key, "name": p.steel.name, "edge": p.edge, "hardens": p.hardens, "carbon": p.carbon,
            "in_solution": p.quenched and p.quenched.carbon, "ms": p.quenched and p.quenched.ms, "retained": p.quenched and p.quenched.retained,
            "quenched": p.quenched.hrc if p.quenched and p.hardens else None, "within": p.quenched and p.quenched.hrc and p.quenched.sure,
            "martensite": p.quenched.martensite[0] if p.quenched and not p.quenched.unknown else None,
            "tempered": w.comes_to(p.steel.key, None if oven is None else oven + w.oven) if oven is not None or w.now is not None else None,
            "window": w.ranges.get(p.steel.key), "curve": w.curve(p.steel.key) if p.hardens else [],
        }
        for p in w.parts
    ]  # fmt: skip
    return {
        "lead": w.lead, "window": w.window, "heat": w.heat, "soak": w.soak, "quench": w.quench, "start": w.start, "expected": w.expected,
        "temper": w.temper, "set_oven": oven, "oven": w.oven, "shift": w.shift, "sure": w.sure, "colour": colour[1] if colour else "", "spine": w.blade.spine, "edge": w.edge, "parts": parts, "unknown": w.unknown, "length": w.blade.length,
        "bends": {state: [vars(m) for m in w.bends(state)] for state in ("soft", "window", "clamp")},
        "steps": [vars(s) | {"program": [vars(g) for g in s.program], "findings": [f.as_json() for f in s.findings]} for s in hardening_plan(w)],
    }  # fmt: skip
