"""Steels by key: composition, density, whether they harden, and how they etch.

Composition in weight %; density in kg/m3 at 20 C. `tone` runs from 0 (black) to 10
(mirror) after ferric chloride of about 10 % by weight, hardened, the oxide left on the
dark layers; `etch_rate` is the depth eaten in um/min there at 20 C. Both are indicative
(a factor of two on the rate): shown as such, and the shop can put its own tone.
"""

from dataclasses import dataclass
from typing import Literal

J403 = "SAE J403 (carbon steels), mid-range"
J404 = "SAE J404 (alloy steels), mid-range"
ASTM_TOOL = "ASTM A686/A681 (tool steels), mid-range"
EN_TOOL = "EN ISO 4957 (tool steels), mid-range"
EN_STAINLESS = "EN 10088 (stainless steels), mid-range"
TRADE = "trade data sheets for this kind of strip; check the mill certificate"
DENSITY = "handbook: iron 7870, about -40 per % C"
ETCH = "indicative; shop experience with 10 % ferric chloride, factor of two"


@dataclass(frozen=True)
class Steel:
    key: str
    name: str
    composition: dict[str, float]
    density: float
    hardens: Literal["yes", "shallow", "partly", "no"]
    tone: float
    etch_rate: float
    why_tone: str
    composition_source: str
    density_source: str = DENSITY
    tone_source: str = ETCH


def _alloy(c: float, mn: float, si: float, cr: float = 0, ni: float = 0, **other: float) -> dict[str, float]:
    full = {"C": c, "Mn": mn, "Si": si, "Cr": cr, "Ni": ni, **other}
    return {k: v for k, v in full.items() if v}


_LIST = (
    Steel("1018", "1018 mild steel", _alloy(0.18, 0.75, 0.20), 7870, "no", 4.5, 0.65, "little carbon: mid grey", J403),
    Steel("1045", "1045", _alloy(0.45, 0.75, 0.22), 7850, "partly", 3.0, 0.75, "dark grey", J403),
    Steel("1075", "1075", _alloy(0.75, 0.60, 0.22), 7850, "yes", 1.5, 0.80, "very dark: martensite, manganese", J403),
    Steel("1080", "1080", _alloy(0.80, 0.75, 0.22), 7850, "yes", 1.5, 0.80, "very dark", J403),
    Steel("1084", "1084", _alloy(0.84, 0.75, 0.22), 7850, "yes", 1.0, 0.80, "black: 0.75 manganese, no chromium or nickel", J403),
    Steel("1095", "1095", _alloy(0.95, 0.40, 0.22), 7840, "shallow", 1.5, 0.80, "a little greyer: less manganese", J403),
    Steel("w1", "W1", _alloy(1.0, 0.25, 0.25), 7840, "shallow", 2.0, 0.80, "dark, low manganese", ASTM_TOOL),
    Steel("w2", "W2", _alloy(1.0, 0.25, 0.25, V=0.25), 7840, "shallow", 2.0, 0.80, "dark, low manganese", ASTM_TOOL),
    Steel("o1", "O1", _alloy(0.93, 1.2, 0.30, 0.50, W=0.5, V=0.15), 7850, "yes", 1.5, 0.90, "very dark: 1.2 manganese", ASTM_TOOL),
    Steel("5160", "5160", _alloy(0.60, 0.87, 0.25, 0.80), 7850, "yes", 3.0, 0.55, "chromium: dark grey", J404),
    Steel("52100", "52100", _alloy(1.0, 0.35, 0.25, 1.45), 7810, "yes", 3.0, 0.55, "1.45 chromium: grey", J404),
    Steel("80crv2", "80CrV2", _alloy(0.80, 0.40, 0.30, 0.55, V=0.20), 7840, "yes", 2.5, 0.55, "dark", EN_TOOL),
    Steel("l6", "L6", _alloy(0.72, 0.60, 0.25, 0.80, 1.6), 7860, "yes", 7.0, 0.25, "nickel and chromium: bright", ASTM_TOOL),
    Steel("15n20", "15N20 nickel strip", _alloy(0.75, 0.40, 0.25, 0.10, 2.0), 7860, "yes", 7.5, 0.25, "2 nickel: bright silver", TRADE),
    Steel("iron", "Pure iron", _alloy(0.02, 0.10, 0.01), 7870, "no", 5.5, 0.60, "ferrite: matte grey", TRADE),
    Steel("wrought", "Wrought iron", _alloy(0.05, 0.05, 0.15, P=0.15), 7700, "no", 5.0, 0.60, "grey with dark slag threads", TRADE),
    Steel("nickel", "Nickel 200", _alloy(0.08, 0.2, 0.1, 0, 99.6), 8890, "no", 10.0, 0.08, "untouched: mirror", "ASTM B160/B162"),
    Steel("420", "420 stainless", _alloy(0.28, 0.5, 0.5, 13.0), 7740, "yes", 9.0, 0.05, "13 chromium: hardly attacked", EN_STAINLESS),
    Steel("304", "304 stainless", _alloy(0.05, 1.5, 0.5, 18.2, 8.5), 7930, "no", 9.5, 0.02, "not attacked: mirror", EN_STAINLESS),
)

STEELS: dict[str, Steel] = {s.key: s for s in _LIST}
