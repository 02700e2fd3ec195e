"""What is heavy is a function of plain data: another process does it with the same result to the last bit;
and it asks the shop's numbers, every one."""

from concurrent.futures import Executor, ProcessPoolExecutor, ThreadPoolExecutor
from dataclasses import asdict
from multiprocessing import get_context
from typing import Any, ClassVar
from unittest import mock

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import blade
from varistrat.core.cutting.cut import Cut
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.finish.cycles import etch_plan
from varistrat.core.heat.hardening.plan import hardening_plan
from varistrat.core.heat.segment import Segment
from varistrat.core.kiln.controller import SimulatedController
from varistrat.core.kiln.plant import Load
from varistrat.core.kiln.program import Program, checks, planned
from varistrat.core.laminate.aim import Aim, Band
from varistrat.core.laminate.exposure import stations
from varistrat.core.laws.numbers import FIGURES
from varistrat.core.pairing.pairing import Pairing
from varistrat.core.pattern.picture import SCREEN, draw
from varistrat.core.pattern.views import BladeView
from varistrat.core.rack.item import RackItem, Stocked
from varistrat.core.reading import parse
from varistrat.core.route.money import time_and_money
from varistrat.core.route.route import route_of
from varistrat.core.shop import ShopData
from varistrat.core.starters import STARTERS
from varistrat.core.steels.estimate import shop_steel
from varistrat.core.stock.cut_plan import cut_plan
from varistrat.core.stock.need import ticked
from varistrat.core.stock.sheet import stock_of
from varistrat.core.study.lamina import Lamina
from varistrat.core.study.tolerances import Sizes, study
from varistrat.core.sweep import Variation, sheet

SHOP = ShopData({"1084": shop_steel("1084", {"tone": {"ferric": 6.0}})}, {"scale_neutral": 1.4})


class ProcessTests(SimpleTestCase):
    pools: ClassVar[list[Executor]]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.pools = [ThreadPoolExecutor(1), ProcessPoolExecutor(2, mp_context=get_context("spawn"))]
        for pool in cls.pools:
            cls.addClassCleanup(pool.shutdown, cancel_futures=True)

    def test_faces(self) -> None:
        cut = Worked.of(read_document(STARTERS["opposed_twist"].document(), SHOP)).cut
        assert cut
        here, there = (draw(cut.subject(), BladeView(cut.placed, "right"), 700, pool, SCREEN) for pool in self.pools)
        np.testing.assert_array_equal(here, there)
        plain = Worked.of(read_document(STARTERS["opposed_twist"].document())).cut
        assert plain
        self.assertFalse(np.array_equal(here, draw(plain.subject(), BladeView(plain.placed, "right"), 700, self.pools[0], SCREEN)))

    def test_sheets(self) -> None:
        document = read_document(STARTERS["bold_twist"].document(), SHOP)
        axes = [Variation(path="blade.place.angle", low=-4.0, high=4.0, count=3)]
        here, there = (list(sheet(document, axes, pool, lambda: False, (120, 40))) for pool in self.pools)
        self.assertEqual([(c.values, c.picture, c.problem) for c in here], [(c.values, c.picture, c.problem) for c in there])
        self.assertTrue(all(c.picture for c in here))

    def test_studies(self) -> None:
        cut = Cut.of(blade())
        lamina, band = Lamina.of(cut, stations(cut.geometry, 12)), Band.of(Aim(), cut.geometry)
        here, there = (list(study(lamina, Sizes(dip=0.05), band, pool, blades=400, sobol=64))[-1] for pool in self.pools)
        assert not isinstance(here, float)
        assert not isinstance(there, float)
        self.assertEqual(asdict(here), asdict(there))


class EveryNumberTests(SimpleTestCase):
    """A shop's own number in place of ours changes what it is a number of: none is declared and forgotten."""

    CLAD = STARTERS["clad_core"].document() | {"hardening": {"quench": "fast_oil", "hardened": {"bow": 1.0}}}

    def told(self, shop: ShopData) -> Any:
        out: list[Any] = []
        fires = [("press", gas) for gas in ("air", "neutral", "rich", "very_rich")]
        for tool, gas in [*fires, ("power_hammer", "neutral"), ("hand_hammer", "neutral"), ("rolls", "neutral")]:
            fire = {"tool": tool, "gas": gas, "forge": 1100}
            w = Worked.of(read_document(STARTERS["blank"].document() | {"fire": fire}, shop))
            out += [(f.heats, f.minutes, f.soak, f.scale, f.skin, f.spread, f.passes) for f in w.fire.fired]
        twisted = Worked.of(read_document(STARTERS["bold_twist"].document(), shop))
        out += [f.minutes for f in twisted.fire.fired]
        can = Worked.of(read_document(STARTERS["canister"].document(), shop))
        out += [(f.scale, f.skin) for f in can.fire.fired]
        w = Worked.of(read_document(self.CLAD, shop)).hardening
        out += [(s.do, s.why) for s in hardening_plan(w)]
        steels = [shop.steels[k] for k in ("1084", "15n20")]
        for quench in ("water", "fast_oil", "medium_oil", "slow_oil"):
            said = Worked.of(read_document(STARTERS["bold_twist"].document() | {"hardening": {"quench": quench}}, shop)).hardening
            out += [
                said.expected,
                [p.quenched and p.quenched.severity for p in said.parts],
                [p.quenched and p.quenched.through(quench) for p in said.parts],
            ]
        out.append([r.why for r in Pairing.of(steels, numbers=shop.numbers).reasons])
        hot = Program(name="p", segments=[Segment(celsius=1190.0, minutes=5.0)])
        out += [planned(hot, shop.numbers), [f.why for f in checks(hot, shop=shop)]]
        out.append(SimulatedController(hot, Load.of(180.0, 4.0, 35.0, 200.0), 1250.0, rate=shop.numbers.of(FIGURES["kiln_rate"])).rate)
        beside = Worked.of(read_document(STARTERS["opposed_twist"].document(), shop))
        out += [stock_of(beside).as_json(), ticked(101.3, shop.numbers)]
        laminate = Worked.of(read_document(STARTERS["three_layer"].document(), shop))
        bar = parse(RackItem, {"steel": "1095", "width": 60.0, "thickness": 30.0, "length": 200.0}, shop)
        out.append([b.keep for b in cut_plan(laminate, [Stocked("R", bar, 1.0)]).bars])
        with mock.patch("varistrat.core.route.money.finish", return_value=(0.0, 0.0)):
            finish = {"moved": True, "mark": {"area": 50.0, "depth": 20.0}}
            marked = Worked.of(read_document(STARTERS["ladder"].document() | {"finish": finish}, shop))
            out += [asdict(time_and_money(marked)), etch_plan(marked).minutes]
            out += [t.minutes for o in route_of(marked).operations for t in o.timers]
        return out

    def fitted(self, shop: ShopData) -> Any:
        """What is fitted to a blade, by itself: quicker than all of it."""
        with mock.patch("varistrat.core.route.money.finish", return_value=(0.0, 0.0)):
            out = []
            for coat in ("oil", "lacquer", "wax"):
                fit_up = {"pins": "peened", "colour": "blue", "coats": 1, "coat": coat, "sheath": "leather"}
                fitted = Worked.of(read_document(STARTERS["ladder"].document() | {"finish": {"fit_up": fit_up}}, shop))
                out.append([(o.attended, o.alone) for o in route_of(fitted).operations if o.kind in ("colour", "peen", "coats", "sheath")])
            return out

    def test_each(self) -> None:
        usual, bare = self.told(ShopData()), self.fitted(ShopData())
        for key, figure in FIGURES.items():
            beyond = [ShopData(figures={key: value}) for value in (figure.low, figure.high) if value != figure.usual]
            changed = (figure.group == "time" and any(self.fitted(shop) != bare for shop in beyond)) or any(
                self.told(shop) != usual for shop in beyond
            )
            with self.subTest(key):
                self.assertTrue(changed, "nothing asks for it")
