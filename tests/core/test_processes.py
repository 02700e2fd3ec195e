"""What is heavy is a function of plain data: another process does it with the same result to the last bit;
and it asks the shop's numbers, every one."""

from collections.abc import Callable
from concurrent.futures import Executor, ProcessPoolExecutor, ThreadPoolExecutor
from dataclasses import asdict
from functools import partial
from multiprocessing import get_context
from typing import Any, ClassVar
from unittest import mock

import numpy as np
from django.test import SimpleTestCase

from tests.core.samples import blade
from varistrat.core.cutting.cut import Cut
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.figures import Figure, Numbers
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

    def fires(self, shop: ShopData, tool: str, gas: str) -> Any:
        fire = {"tool": tool, "gas": gas, "forge": 1100}
        w = Worked.of(read_document(STARTERS["blank"].document() | {"fire": fire}, shop))
        return [(f.heats, f.minutes, f.soak, f.scale, f.skin, f.spread, f.passes) for f in w.fire.fired]

    def twist(self, shop: ShopData) -> Any:
        return [f.minutes for f in Worked.of(read_document(STARTERS["bold_twist"].document(), shop)).fire.fired]

    def can(self, shop: ShopData) -> Any:
        return [(f.scale, f.skin) for f in Worked.of(read_document(STARTERS["canister"].document(), shop)).fire.fired]

    def hardening(self, shop: ShopData) -> Any:
        return [(s.do, s.why) for s in hardening_plan(Worked.of(read_document(self.CLAD, shop)).hardening)]

    def quench(self, shop: ShopData, quench: str) -> Any:
        said = Worked.of(read_document(STARTERS["bold_twist"].document() | {"hardening": {"quench": quench}}, shop)).hardening
        through = [(p.quenched and p.quenched.severity, p.quenched and p.quenched.through(quench)) for p in said.parts]  # type: ignore[arg-type]
        return [said.expected, through]

    def pairing(self, shop: ShopData) -> Any:
        return [r.why for r in Pairing.of([shop.steels[k] for k in ("1084", "15n20")], numbers=shop.numbers).reasons]

    def kiln(self, shop: ShopData) -> Any:
        hot = Program(name="p", segments=[Segment(celsius=1190.0, minutes=5.0)])
        load = Load.of(180.0, 4.0, 35.0, 200.0)
        rate = SimulatedController(hot, load, 1250.0, rate=shop.numbers.of(FIGURES["kiln_rate"])).rate
        return [planned(hot, shop.numbers), [f.why for f in checks(hot, shop=shop)], rate]

    def stock(self, shop: ShopData) -> Any:
        beside = Worked.of(read_document(STARTERS["opposed_twist"].document(), shop))
        return [stock_of(beside).as_json(), ticked(101.3, shop.numbers)]

    def cuts(self, shop: ShopData) -> Any:
        laminate = Worked.of(read_document(STARTERS["three_layer"].document(), shop))
        bar = parse(RackItem, {"steel": "1095", "width": 60.0, "thickness": 30.0, "length": 200.0}, shop)
        return [b.keep for b in cut_plan(laminate, [Stocked("R", bar, 1.0)]).bars]

    def money(self, shop: ShopData) -> Any:
        with mock.patch("varistrat.core.route.money.finish", return_value=(0.0, 0.0)):
            finish = {"moved": True, "mark": {"area": 50.0, "depth": 20.0}}
            marked = Worked.of(read_document(STARTERS["ladder"].document() | {"finish": finish}, shop))
            timers = [t.minutes for o in route_of(marked).operations for t in o.timers]
            return [asdict(time_and_money(marked)), etch_plan(marked).minutes, timers]

    def fitted(self, shop: ShopData, coat: str) -> Any:
        with mock.patch("varistrat.core.route.money.finish", return_value=(0.0, 0.0)):
            fit_up = {"pins": "peened", "colour": "blue", "coats": 1, "coat": coat, "sheath": "leather"}
            fitted = Worked.of(read_document(STARTERS["ladder"].document() | {"finish": {"fit_up": fit_up}}, shop))
            return [(o.attended, o.alone) for o in route_of(fitted).operations if o.kind in ("colour", "peen", "coats", "sheath")]

    def places(self) -> list[Callable[[ShopData], Any]]:
        """What a shop works out, each by itself."""
        fires = [("press", gas) for gas in ("air", "neutral", "rich", "very_rich")]
        fires += [("power_hammer", "neutral"), ("hand_hammer", "neutral"), ("rolls", "neutral")]
        return [
            *(partial(self.fires, tool=tool, gas=gas) for tool, gas in fires),
            *(self.twist, self.can, self.pairing, self.kiln, self.stock, self.cuts),
            *(partial(self.quench, quench=q) for q in ("water", "fast_oil", "medium_oil", "slow_oil")),
            # those that ask for most of them come last: most figures change something before
            *(self.money, self.hardening),
            *(partial(self.fitted, coat=coat) for coat in ("oil", "lacquer", "wax")),
        ]

    def test_each(self) -> None:
        """Only where a figure is asked for can it change anything: it is tried there, until it does."""
        real, usual = Numbers.of, []
        for place in self.places():
            asked: set[str] = set()

            def noted(numbers: Numbers, figure: Figure, asked: set[str] = asked) -> float:
                asked.add(figure.key)
                return real(numbers, figure)

            with mock.patch.object(Numbers, "of", noted):
                usual.append((place, place(ShopData()), asked))
        for key, figure in FIGURES.items():
            beyond = [ShopData(figures={key: value}) for value in (figure.low, figure.high) if value != figure.usual]
            with self.subTest(key):
                there = [(place, told) for place, told, asked in usual if key in asked]
                self.assertTrue(there, "nothing asks for it")
                self.assertTrue(any(place(shop) != told for place, told in there for shop in beyond), "it changes nothing")
