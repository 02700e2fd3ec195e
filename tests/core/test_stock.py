"""Backwards from the blade: the worked sums, and agreement with the forward ledger over all that can be forged."""

import json
import random
from typing import Any

from django.test import SimpleTestCase

from tests.core.samples import forged
from tests.core.test_cli import CommandCase
from varistrat.core.bars.forged import Forged, forge
from varistrat.core.bars.recipe import BarRecipe, Recipe, read_recipe
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.figures import USUAL
from varistrat.core.shop import ShopData
from varistrat.core.starters import STARTERS, blade
from varistrat.core.stock.backwards import Wanted, losses, solve
from varistrat.core.stock.need import Allowance
from varistrat.core.stock.sheet import StockSheet, stock_of

Json = dict[str, Any]
BARE = Allowance.of(USUAL, hold=20.0, ends=0.0, reserve=0.0)


def pile(heights: list[float], width: float, length: float = 100.0) -> Json:
    steels = ["1084", "15n20"] * len(heights)
    return {"kind": "stack", "width": width, "length": length, "layers": [{"steel": s, "thickness": t} for s, t in zip(steels, heights)]}  # noqa: B905


def draw(width: float, thickness: float) -> Json:
    return {"kind": "draw", "width": width, "thickness": thickness}


def begun(f: Forged, length: float, allowed: Allowance = BARE) -> float:
    return solve(f, length, allowed)[0].begun


def remade(wanted: list[Wanted]) -> BarRecipe:
    """The recipe with every pile as long as it is wanted."""
    lengths = {w.address: w.begun for w in wanted}

    def again(f: Forged, address: tuple[int, ...]) -> BarRecipe:
        children = [again(c, (*address, i)) for i, c in enumerate(f.children)]
        changed: Json = {"bars": children} if children else {"length": lengths[address]}
        steps = {w.address: w.steps for w in wanted}[address]
        return BarRecipe(start=f.start.model_copy(update=changed), steps=list(steps))  # type: ignore[arg-type]

    return again(wanted[0].forged, ())


class WorkedSums(SimpleTestCase):
    def test_one_pile_drawn_and_ground(self) -> None:
        """260 (34 x 6.2) / (34 x 33)."""
        f = forged(pile([5, 4, 5, 5, 5, 4, 5], 34.0), draw(34.0, 6.2), {"kind": "grind", "top": 0.4, "bottom": 0.4})
        self.assertAlmostEqual(begun(f, 260.0), 48.85, 2)

    def test_through_a_restack(self) -> None:
        """260 x 240/1600 = 39; 4 x 39 + 3 x 2 = 162; 162 x 400/1600 = 40.5."""
        restack = {"kind": "restack", "pieces": 4, "kerf": 2.0}
        f = forged(pile([10.0] * 4, 40.0), draw(40.0, 10.0), restack, draw(40.0, 6.0))
        (w,) = solve(f, 260.0, BARE)
        for found, told in zip(w.lengths, (40.5, 162.0, 39.0, 260.0), strict=True):
            self.assertAlmostEqual(found, told, 9)

    def test_bad_ends_are_drawn_out_and_come_off_with_the_next_cut(self) -> None:
        """Welded at 20 mm thick: 8 mm at each end; drawn from 30 x 20 to 30 x 10 they are 16; both come off before the cut."""
        allowed = Allowance.of(USUAL, need=200.0, ends=0.4)
        weld = {"kind": "weld", "thickness": 20.0}
        steps = [weld, draw(30.0, 10.0), {"kind": "restack", "pieces": 2, "kerf": 2.0}]
        (w,) = solve(forged(pile([12.0, 12.0], 30.0), *steps), 200.0, allowed)
        self.assertEqual([round(v, 9) for v in w.cut_off], [0.0, 0.0, 32.0])
        self.assertAlmostEqual(w.lengths[2], 2 * 200 + 2 + 32)
        # laid together and welded in one heat, 20 mm high, as no weld follows
        self.assertAlmostEqual(w.ends, 16.0)
        (w,) = solve(forged(pile([12.0, 12.0], 30.0), *steps, weld, draw(30.0, 5.0)), 200.0, allowed)
        self.assertAlmostEqual(w.ends, 2 * 8 * 4, msg="the weld that follows is the one that counts")
        # what is trimmed off was bad anyhow
        (w,) = solve(forged(pile([12.0, 12.0], 30.0), weld, {"kind": "trim", "start": 5.0, "end": 12.0}), 200.0, allowed)
        self.assertAlmostEqual(w.ends, 3.0)
        (w,) = solve(forged(pile([4.0, 4.0], 30.0), {"kind": "weld", "thickness": 6.0}), 200.0, allowed)
        self.assertAlmostEqual(w.ends, 10.0, msg="five millimetres at least")

    def test_nothing_is_closed_by_what_was_never_open(self) -> None:
        one = {"kind": "solid", "steel": "1084", "length": 100.0, "width": 30.0, "thickness": 20.0}
        (w,) = solve(forged(one, {"kind": "weld", "thickness": 18.0}), 100.0, Allowance.of(USUAL, need=100.0))
        self.assertEqual(w.ends, 0.0)

    def test_the_need_of_a_cut_blade(self) -> None:
        cut = blade("drop_point", 150.0, 30.0, (4.0, 3.6, 2.2), 0.4) | {"tang": {"length": 90.0, "width": 18.0, "end_width": 12.0}}
        bar = {"start": pile([5, 4, 5, 5, 5, 4, 5], 34.0), "steps": [draw(34.0, 6.2), {"kind": "grind", "top": 0.4, "bottom": 0.4}]}
        worked = Worked.of(read_document({"recipe": {"format": "varistrat.recipe/1", "bar": bar}, "blade": cut}))
        sheet = stock_of(worked, BARE)
        self.assertAlmostEqual(sheet.need.length, 260.0)
        self.assertAlmostEqual(sheet.piles[0].length, 48.85, 2)
        self.assertAlmostEqual(sheet.spare, worked.forged.bar.length - 260.0)
        self.assertAlmostEqual(sheet.losses["hold"], 20 * 34 * 5.4)
        exact = stock_of(worked, Allowance.of(USUAL, hold=0.0, ends=0.0, reserve=0.0))
        self.assertEqual(set(exact.losses), {"grind", "blade", "shaping"})
        typed = stock_of(worked, Allowance.of(USUAL, need=exact.need.length))
        self.assertEqual(set(typed.losses), {"grind", "bar"})
        usual = stock_of(worked).need
        self.assertAlmostEqual(usual.reserve, 0.1 * (240 + 20 + usual.ends))
        self.assertAlmostEqual(stock_of(worked, Allowance.of(USUAL, need=123.0)).need.length, 123.0)


class AgreementTests(SimpleTestCase):
    def sheets(self) -> list[tuple[str, StockSheet]]:
        out = []
        for key, starter in STARTERS.items():
            document = starter.document()
            worked = Worked.of(read_document(document))
            for ends in (0.0, 0.4):
                allowed = Allowance.of(USUAL, need=None if worked.cut else 300.0, ends=ends)
                try:
                    out.append((f"{key} {ends}", stock_of(worked, allowed)))
                except InputError as e:
                    # a slice is as long as its bar is thick, whatever its length
                    self.assertIn("draw the slice", e.problems[0].cure, key)
        self.assertGreater(len(out), 1.8 * len(STARTERS) - 4)
        return out

    def test_forwards_again_the_bar_is_as_long_as_it_must_be(self) -> None:
        for key, sheet in self.sheets():
            if key.endswith("0.4") or "offcut" in sheet.losses:
                continue
            again = forge(Recipe(bar=remade(list(sheet.wanted))).bar)
            self.assertLess(abs(again.bar.length / sheet.need.length - 1), 1e-6, key)

    def test_the_waterfall_closes(self) -> None:
        for key, sheet in self.sheets():
            put_in = sum(w.begun * w.forged.first.section.area for w in sheet.wanted if not w.forged.children)
            self.assertLess(abs(sum(sheet.losses.values()) / put_in - 1), 1e-9, f"{key}: {sheet.losses}")
            self.assertGreater(min(v for k, v in sheet.losses.items() if k != "brought_in"), 0.0, key)

    def test_a_bar_as_long_as_it_is_needs_the_pile_it_has(self) -> None:
        for key, starter in STARTERS.items():
            f = Worked.of(read_document(starter.document())).forged
            wanted = solve(f, f.bar.length, BARE)
            if not losses(wanted).get("offcut"):
                for w in wanted:
                    self.assertLess(w.begun / w.forged.first.length, 1 + 1e-9, f"{key} {w.address}")


class RandomTreesTests(SimpleTestCase):
    """Five hundred recipes nobody thought of."""

    def step(self, rng: random.Random) -> Json:
        hand = rng.uniform
        return rng.choice(
            [
                lambda: {"kind": "weld", "thickness": hand(8, 22)},
                lambda: draw(hand(12, 40), hand(6, 25)),
                lambda: {"kind": "section", "form": rng.choice(["square", "octagon", "round", "rectangle"])},
                lambda: {"kind": "twist", "turns": hand(1, 12)},
                lambda: {"kind": "turn", "degrees": rng.choice([90.0, 180.0])},
                lambda: {"kind": "restack", "pieces": rng.randint(2, 5), "kerf": hand(0, 3), "grind": hand(0, 0.5)},
                lambda: {"kind": "fold", "grind": hand(0, 0.5)},
                lambda: {"kind": "grid", "cells": [[{}] * rng.randint(1, 3)] * rng.randint(1, 2), "kerf": hand(0, 2)},
                lambda: (
                    {"kind": "relief", "shape": "rungs", "profile": "vee", "pitch": 12.0, "groove": 8.0, "depth": hand(0.5, 2.5)}
                    | {"method": rng.choice(["cut_forged", "pressed_ground"])}
                ),
                lambda: {"kind": "grind", "top": hand(0, 1), "bottom": hand(0, 1)},
                lambda: {"kind": "trim", "start": hand(0, 9), "end": hand(0, 9)},
                lambda: {"kind": "split", "drag": hand(1, 4), "reach": 6.0},
            ]
        )() | {"scale": rng.choice([0.0, 0.2])}

    def bar(self, rng: random.Random, depth: int = 0) -> Json:
        steps = [self.step(rng) for _ in range(rng.randint(0, 6))]
        if depth < 2 and rng.random() < 0.35:
            bars = [self.bar(rng, depth + 1) | {"steps": [*self.squared(rng)]} for _ in range(rng.randint(2, 3))]
            join = rng.choice(["stacked", "side_by_side"])
            return {"start": {"kind": "assembly", "join": join, "bars": bars}, "steps": steps}
        return {"start": pile([rng.uniform(2, 8) for _ in range(rng.randint(2, 6))], rng.uniform(20, 40), 400.0), "steps": steps}

    def squared(self, rng: random.Random) -> list[Json]:
        return [self.step(rng), {"kind": "section", "form": "rectangle", "width": 20.0, "thickness": 20.0}]

    def test_forwards_and_backwards_agree_and_the_waterfall_closes(self) -> None:
        rng, done = random.Random(12), 0
        allowed = Allowance.of(USUAL, need=1.0)
        while done < 500:
            try:
                f = forge(read_recipe({"format": "varistrat.recipe/1", "bar": self.bar(rng)}).bar)
            except InputError:
                continue
            done += 1
            length = f.bar.length * rng.uniform(0.4, 3.0)
            again = forge(Recipe(bar=remade(solve(f, length, BARE))).bar)
            self.assertLess(abs(again.bar.length / length - 1), 1e-6, done)
            wanted = solve(f, length, allowed)
            put_in = sum(w.begun * w.forged.first.section.area for w in wanted if not w.forged.children)
            out = length * f.bar.section.area + sum(losses(wanted).values())
            self.assertLess(abs(out / put_in - 1), 1e-9, done)


class TogetherTests(SimpleTestCase):
    def bars(self, *thicknesses: float, turns: tuple[str, ...] = ("right", "left")) -> Worked:
        def one(hand: str, thickness: float) -> Json:
            twist = {"kind": "twist", "turns": 6.0, "hand": hand}
            steps = [{"kind": "weld", "thickness": 16.0}, draw(14.0, 14.0), twist, {"kind": "section", "form": "square"}]
            return {"start": pile([6.0, 6.0, 6.0], 20.0), "steps": [*steps, draw(14.0, thickness)]}

        bars = [one(h, t) for h, t in zip(turns, thicknesses, strict=True)]
        whole = {"start": {"kind": "assembly", "join": "side_by_side", "bars": bars}, "steps": [{"kind": "weld", "thickness": 9.0}]}
        return Worked.of(read_document({"recipe": {"format": "varistrat.recipe/1", "bar": whole}}))

    def test_forged_as_one_until_they_are_twisted_apart(self) -> None:
        allowed = Allowance.of(USUAL, need=200.0, ends=0.0)
        sheet = stock_of(self.bars(10.0, 10.0), allowed)
        (pair,) = sheet.together
        self.assertEqual((pair.bars, pair.steps), (((0,), (1,)), 2))
        singles = [p.length for p in sheet.piles]
        # one kerf more than both, seen through the draw: 14 x 14 from 20 x 18
        self.assertAlmostEqual(pair.length, sum(singles) + 1.5 * 196 / 360)

    def test_the_ends_are_lost_once(self) -> None:
        allowed = Allowance.of(USUAL, need=200.0, ends=0.4)
        sheet = stock_of(self.bars(10.0, 10.0), allowed)
        ends = 2 * 0.4 * 16 * 320 / 360
        self.assertAlmostEqual(sheet.together[0].length, sum(p.length for p in sheet.piles) - ends + 1.5 * 196 / 360)

    def test_not_beyond_the_shops_reach(self) -> None:
        allowed = Allowance.of(USUAL, need=200.0, ends=0.0)
        worked = self.bars(10.0, 10.0, turns=("right", "right"))
        self.assertEqual(stock_of(worked, allowed).together[0].steps, 5)
        long = max(max(w.lengths) for w in stock_of(worked, allowed).wanted)
        near = ShopData({}, {"reach": 1.2 * long})
        document = worked.document.model_dump(mode="json", by_alias=True)
        self.assertLess(stock_of(Worked.of(read_document(document, near)), allowed).together[0].steps, 5)
        none = ShopData({}, {"reach": 100.0})
        self.assertEqual(stock_of(Worked.of(read_document(document, none)), allowed).together, ())


class FindingTests(SimpleTestCase):
    def test_short_long_and_out_of_reach(self) -> None:
        document = STARTERS["bold_twist"].document()
        worked = Worked.of(read_document(document))
        have = worked.forged.bar.length
        codes = {f.code for f in stock_of(worked, Allowance.of(USUAL, need=have + 9.0)).findings}
        self.assertIn("bar_short", codes)
        self.assertNotIn("bar_short", {f.code for f in stock_of(worked, Allowance.of(USUAL, need=have + 0.4)).findings})
        self.assertIn("bar_beyond_reach", {f.code for f in stock_of(worked, Allowance.of(USUAL, need=700.0)).findings})
        document["recipe"]["bar"]["start"]["length"] *= 3
        self.assertIn("two_blades", {f.code for f in stock_of(Worked.of(read_document(document))).findings})

    def test_what_cannot_be_is_said_with_its_place(self) -> None:
        bar = {"start": pile([9.0, 9.0], 30.0, 200.0), "steps": [{"kind": "turn", "degrees": 90.0, "about": "z"}]}
        worked = Worked.of(read_document({"recipe": {"format": "varistrat.recipe/1", "bar": bar}}))
        with self.assertRaises(InputError) as caught:
            stock_of(worked, Allowance.of(USUAL, need=400.0))
        self.assertEqual(caught.exception.problems[0].path, "recipe.bar.steps[0].degrees")
        bar["steps"] = []
        with self.assertRaises(InputError) as caught:
            stock_of(Worked.of(read_document({"recipe": {"format": "varistrat.recipe/1", "bar": bar}})))
        self.assertEqual(caught.exception.problems[0].path, "need")
        for said in ({"need": -1.0}, {"need": 0.0}, {"need": float("nan")}, {"reserve": -0.1}, {"hold": 1e9}, {"ends": -1.0}):
            with self.assertRaises(InputError, msg=str(said)):
                Allowance.of(USUAL, **said)


class StockCommandTests(CommandCase):
    def test_a_design_and_a_recipe(self) -> None:
        document = STARTERS["bold_twist"].document()
        path = self.put("design.json", {"format": "varistrat.design/1", "name": "x"} | document)
        code, out, _ = self.call("stock", path, "--ends", "0", "--reserve", "0")
        self.assertEqual(code, 0)
        told = json.loads(out)
        self.assertEqual(set(told), {"need", "have", "spare", "give", "piles", "together", "losses", "findings"})
        self.assertAlmostEqual(told["have"] - told["need"], told["spare"])
        path = self.put("recipe.json", document["recipe"])
        code, out, said = self.call("stock", path)
        self.assertEqual((code, out), (2, ""))
        self.assertIn("need: there is no blade", said)
        code, out, _ = self.call("stock", path, "--need", "300")
        self.assertEqual((code, json.loads(out)["need"]), (0, 300.0))
        self.assertEqual(self.call("stock", path, "--need", "-3")[0], 2)
