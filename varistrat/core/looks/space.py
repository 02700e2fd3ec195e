"""What can be forged: every family with its free numbers, what each takes of tools, and the steels it is made of."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Any

from pydantic import Field

from varistrat.core import families as f
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.families import Json
from varistrat.core.model import Model
from varistrat.core.pairing.pairing import Pairing
from varistrat.core.shop import AS_SHIPS, ShopData
from varistrat.core.starters import DEFAULT_BLADE, design
from varistrat.core.stock.sheet import stock_of
from varistrat.core.stock.ways import made_so

Values = Mapping[str, float]


@dataclass(frozen=True)
class Number:
    """A number of a family: low to high, in `step`s; usual: where nothing is said of it."""

    key: str
    label: str
    unit: str
    low: float
    high: float
    step: float
    usual: float

    @property
    def steps(self) -> int:
        """How many from low to high."""
        return round((self.high - self.low) / self.step)

    def at(self, share: float) -> float:
        """The value a share (0 to 1) of the way, on a step; every one has the same room."""
        n = self.steps
        return round(self.low + self.step * min(int(share * (n + 1)), n), 4)

    def snapped(self, value: float) -> float:
        """The nearest that can be."""
        return round(self.low + self.step * min(max(round((value - self.low) / self.step), 0), self.steps), 4)


@dataclass(frozen=True)
class Family:
    """A way to make a face: its name, what tells it, its free numbers, the tools it takes (TOOLS), the bar for its numbers."""

    key: str
    title: str
    tells: str
    numbers: tuple[Number, ...]
    needs: tuple[str, ...]
    bar: Callable[[Values], Json]

    def all(self, values: Values) -> dict[str, float]:
        """With what is left out at its usual. Raises InputError for a value out of its range."""
        found = {}
        for n in self.numbers:
            value = values.get(n.key, n.usual)
            if not n.low - 1e-9 <= value <= n.high + 1e-9:
                raise InputError.at(f"values.{n.key}", f"{n.label.lower()} is {value:g}", f"use {n.low:g} to {n.high:g}")
            found[n.key] = n.snapped(value)
        return found


TOOLS: dict[str, str] = {
    "twisting": "a bar can be twisted",
    "saw": "a hot or cold bar can be sawn in true pieces",
    "mill": "grooves can be milled or ground",
    "drill": "hollows can be drilled",
    "press": "a press or power hammer, for a tall pile",
    "can": "a can can be welded shut",
}
"""What a shop may lack, and what having it means."""

DARK_STEELS, BRIGHT_STEELS = {f.DARK, "1095"}, {f.BRIGHT, "5160"}


def _thick(made: Json, thickness: float) -> Json:
    """The bar's last draw to another thickness, mm."""
    for step in reversed(made["steps"]):
        if step["kind"] == "draw":
            step["thickness"] = thickness
            break
    return made


def _twist(v: Values) -> Json:
    made = f.twisted("right" if v["hand"] > 0 else "left", v["turns"], 16.5, pairs=round(v["pairs"]))
    return f.bar(made["start"], *made["steps"], f.draw(37.0, v["thick"], scale=0.1))


def _opposed(v: Values) -> Json:
    bars = round(v["bars"])
    ways = ("right", "left") if v["hand"] > 0 else ("left", "right")
    return _thick(f.opposed(v["turns"], tuple(ways[i % 2] for i in range(bars)), round(v["pairs"])), v["thick"])


def _random(v: Values) -> Json:
    pairs, pieces = round(v["pairs"]), round(v["pieces"])
    uneven = f.hand(v["lift"], v["wave"], 4)
    again = [
        f.draw(40.0, 11.0, scale=0.2, uneven=f.hand(0.1, 30.0, 2)),
        {"kind": "restack", "pieces": pieces, "grind": 0.3, "kerf": 1.5},
        f.weld(9.0 * pieces, scale=0.2),
    ]
    start = f.alternating(pairs, 24.0 / pairs, 18.0 / pairs, 40.0, 110.0)
    return f.bar(start, f.weld(30.0, scale=0.2), *(again if pieces > 1 else []), f.draw(38.0, v["thick"], scale=0.2, uneven=uneven))


def _bias(v: Values) -> Json:
    pairs = round(v["pairs"])
    start = f.alternating(pairs, 16.0 / pairs, 12.0 / pairs, 40.0, 90.0)
    return f.bar(
        start,
        f.weld(26.0, scale=0.2),
        f.draw(22.0, 22.0, scale=0.2),
        {"kind": "turn", "degrees": 45.0},
        f.SQUARE,
        f.draw(38.0, v["thick"], uneven=f.hand(v["lift"], 24.0, 4)),
    )


TURNS = Number("turns", "Turns along the blade", "", 2.0, 9.0, 0.5, 5.0)
HAND = Number("hand", "Twisted left (-1) or right (1)", "", -1.0, 1.0, 2.0, 1.0)
THICK = Number("thick", "Bar before grinding", "mm", 4.8, 8.0, 0.2, 6.2)


def _pairs(low: float, high: float, usual: float) -> Number:
    return Number("pairs", "Pairs of layers", "", low, high, 1.0, usual)


FAMILIES: dict[str, Family] = {
    x.key: x
    for x in (
        Family("twist", "Twisted bar", "slanting lines near the skin, stars where it is ground to its middle",
               (TURNS, HAND, _pairs(2, 8, 4), THICK), ("twisting",), _twist),
        Family("opposed", "Twists side by side, against one another", "slants that meet in arrows",
               (TURNS, HAND, Number("bars", "Bars side by side", "", 2, 4, 1.0, 3), _pairs(2, 6, 4), THICK), ("twisting",), _opposed),
        Family("random", "Flat layers, by an uneven hand", "islands and bays, nothing comes again",
               (_pairs(5, 14, 8), Number("lift", "How uneven the hand", "mm", 0.1, 0.5, 0.01, 0.25),
                Number("pieces", "Cut and piled again in", "pieces", 1, 4, 1.0, 1),
                Number("wave", "A dent is long", "mm", 14, 40, 1.0, 26),
                THICK), (), _random),
        Family("ladder", "Grooves cut across, forged flat", "rungs, as far apart as they were cut",
               (Number("pitch", "From rung to rung", "mm", 12.0, 24.0, 0.5, 15.0),
                Number("depth", "Groove is deep", "mm", 1.8, 3.6, 0.1, 3.2), _pairs(3, 7, 6)), ("mill", "saw"),
               lambda v: f.ladder(v["pitch"], v["depth"], round(v["pairs"]))),
        Family("dimples", "Hollows drilled, forged flat", "rings like raindrops",
               (Number("pitch", "From ring to ring", "mm", 8.0, 16.0, 0.5, 11.0),
                Number("depth", "Hollow is deep", "mm", 1.6, 3.4, 0.1, 3.0), _pairs(3, 7, 6)), ("drill", "saw"),
               lambda v: f.dimples(v["pitch"], v["depth"], round(v["pairs"]))),
        Family("tiled", "Cut in tiles on the slant, tiled up", "the end grain, laid open",
               (Number("angle", "Angle of the cuts", "deg", 35.0, 50.0, 1.0, 40.0), _pairs(3, 8, 5)), ("saw", "press"),
               lambda v: f.tiled(v["angle"], round(v["pairs"]))),
        Family("feather", "Split and welded again, dragged along", "barbs off a middle line",
               (Number("drag", "Dragged along", "mm", 20.0, 48.0, 1.0, 34.0), _pairs(7, 16, 13)), ("press", "saw"),
               lambda v: f.feather(v["drag"], round(v["pairs"]), 99.0)),
        Family("bias", "Squared on its corners", "lines that run out on the slant, in long tongues",
               (_pairs(2, 8, 4), Number("lift", "How uneven the hand", "mm", 0.02, 0.4, 0.01, 0.12), THICK), (), _bias),
        Family("bias_w", "W's in the end grain, tiled up", "zigzags across the blade, lower where they were pressed flat",
               (Number("tall", "Row of W's is tall", "mm", 5.0, 11.0, 0.5, 10.0),
                Number("angle", "Angle of the cuts", "deg", 34.0, 46.0, 1.0, 40.0), _pairs(3, 7, 5)), ("saw", "press"),
               lambda v: f.bias(v["tall"], round(v["pairs"]), v["angle"], 5)),
        Family("end_slice", "A slice of the end, rolled out", "one figure, drawn out over the whole blade", (_pairs(2, 7, 5),),
               ("saw", "press"), lambda v: f.end_slice(round(v["pairs"]), 31.0)),
        Family("canister", "Rods in powder, twisted", "ropes that run across the blade",
               (Number("rods", "Rods", "", 8, 24, 1.0, 20), Number("size", "Rod is thick", "mm", 4.0, 6.5, 0.5, 6.5),
                TURNS, THICK), ("can", "twisting", "press"),
               lambda v: _thick(f.canister(round(v["rods"]), v["size"], v["turns"]), v["thick"])),
        Family("plug", "A round of end grain let in", "one star on plain ground",
               (Number("diameter", "Plug is wide", "mm", 14.0, 24.0, 1.0, 22.0), _pairs(3, 7, 5)), ("saw", "drill", "press"),
               lambda v: f.plug(v["diameter"], round(v["pairs"]))),
        Family("clad_core", "Plain core between twisted plates", "arrows on the sides, a plain edge", (TURNS,), ("twisting",),
               lambda v: f.clad_core(v["turns"])),
    )
}  # fmt: skip
"""All of them."""


class Candidate(Model):
    """A design of the space: a family, its numbers, the steel that etches dark and the one that stays bright."""

    family: Annotated[str, Field(max_length=30)]
    values: Annotated[dict[Annotated[str, Field(max_length=20)], Annotated[float, Field(ge=-1e4, le=1e4)]], Field(max_length=12)] = {}
    dark: Annotated[str, Field(max_length=40)] = f.DARK
    bright: Annotated[str, Field(max_length=40)] = f.BRIGHT

    @property
    def of_family(self) -> Family:
        """Raises InputError for one there is not."""
        found = FAMILIES.get(self.family)
        if found is None:
            raise InputError.at("family", f"there is no way of forging called {self.family!r}", f"use one of {', '.join(FAMILIES)}")
        return found

    @property
    def key(self) -> str:
        """One for every face: the same of what is said in another order, or left out."""
        numbers = ",".join(f"{k}={v:g}" for k, v in self.of_family.all(self.values).items())
        return f"{self.family}:{numbers}:{self.dark}/{self.bright}"

    def worked(self, shop: ShopData = AS_SHIPS, blade: Json | None = None) -> Worked:
        """Its design carried out, cut as `blade` or as blades are here, its piles no longer than that takes. Raises InputError."""
        family = self.of_family
        made = with_steels(family.bar(family.all(self.values)), self.dark, self.bright)
        begun = Worked.of(read_document(design(made["start"], made["steps"], dict(blade or DEFAULT_BLADE), family.title), shop))
        fitted = Worked.of(made_so(begun, stock_of(begun)))
        if fitted.problems:
            raise InputError(fitted.problems)
        return fitted

    def says(self) -> str:
        """Its numbers in words."""
        family = self.of_family
        found = []
        for n in family.numbers:
            value = family.all(self.values)[n.key]
            if n.key == HAND.key:
                found.append("twisted right" if value > 0 else "twisted left")
            elif n.key == "pieces" and value == 1:
                found.append("not cut and piled again")
            else:
                found.append(f"{n.label[:1].lower()}{n.label[1:]} {value:g}{f' {n.unit}' if n.unit else ''}")
        return ", ".join(found)


def with_steels(made: Any, dark: str, bright: str) -> Any:
    """A bar of a family (JSON) with these steels in place of those it is written with."""
    if isinstance(made, dict):
        return {k: with_steels(v, dark, bright) if k != "steel" else _other(v, dark, bright) for k, v in made.items()}
    return [with_steels(v, dark, bright) for v in made] if isinstance(made, list) else made


def _other(steel: str, dark: str, bright: str) -> str:
    if (dark, bright) == (f.DARK, f.BRIGHT):
        return steel
    return dark if steel in DARK_STEELS else bright if steel in BRIGHT_STEELS else steel


def drawn_from(family: str, unit: Sequence[float], pairings: Sequence[tuple[str, str]]) -> Candidate:
    """A candidate from draws in 0..1: one for the pairing, one for each number."""
    pair = pairings[min(int(unit[0] * len(pairings)), len(pairings) - 1)]
    values = {n.key: n.at(u) for n, u in zip(FAMILIES[family].numbers, unit[1:], strict=True)}
    return Candidate(family=family, values=values, dark=pair[0], bright=pair[1])


SEEN_APART = 1.5
"""Tones of two steels that are told apart after the etch, of 10."""


def pairings_of(shop: ShopData, keys: Sequence[str] = ()) -> list[tuple[str, str]]:
    """(dark, bright) pairs of these steels (all of the shop's when none are named) that are told apart after the etch and whose pairing
    has nothing that forbids it; the most usual one when there are none."""
    steels = [shop.steels[k] for k in (keys or shop.steels) if k in shop.steels]
    found = []
    for dark in steels:
        for bright in steels:
            if bright.shade - dark.shade < SEEN_APART:
                continue
            pairing = Pairing.of([dark, bright], numbers=shop.numbers)
            if any(r.grade == "stop" for r in pairing.reasons):
                continue
            found.append((dark.key, bright.key))
    return found or ([] if keys else [(f.DARK, f.BRIGHT)])


def usual_pairings(shop: ShopData = AS_SHIPS) -> list[tuple[str, str]]:
    """What is forged where nothing is said of the rack."""
    return pairings_of(shop, (f.DARK, f.BRIGHT)) or [(f.DARK, f.BRIGHT)]
