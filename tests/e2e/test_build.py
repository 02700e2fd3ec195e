"""A build in the real browser: begun, followed at the fire, with gloves, without network, by two tablets, and summed up."""

import re
from typing import Any

from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.e2e.base import BrowserCase
from varistrat.builds.models import Build, Order, Record
from varistrat.rack.models import Movement
from varistrat.shop.models import ShopFigure


class BuildCase(BrowserCase):
    book = True

    def go(self, title: str, where: str = "sheet", page: Page | None = None) -> Build:
        build = Build.objects.get(title=title)
        (page or self.page).goto(f"{self.live_server_url}/build/{build.pk}/{where}")
        return build

    def kept(self, page: Page | None = None) -> None:
        expect((page or self.page).get_by_role("status", name="Kept or waiting")).to_have_text("all kept")

    def kinds(self, build: Build) -> list[Any]:
        return [r.data["kind"] for r in Record.objects.filter(build=build)]

    def measure(self, name: str, text: str, page: Page | None = None) -> None:
        field = (page or self.page).get_by_label(f"{name}, measured")
        field.fill(text)
        field.press("Enter")


class BeginTests(BuildCase):
    def test_from_the_design_to_the_first_operation(self) -> None:
        self.sign_in()
        # cut as Stock says its twist would tear: not offered first, and begun only by who says that they know
        self.page.goto(self.live_server_url + self.address("Rush knife, right hand", "build"))
        button = self.page.get_by_role("button", name="Begin the build")
        expect(self.page.get_by_role("radio", name="as they are drawn")).to_be_checked()
        expect(button).to_be_enabled()
        self.page.get_by_role("radio", name="as Stock says").click()
        expect(self.page.get_by_role("list", name="What fails or needs care")).to_contain_text("The skin will tear.")
        expect(button).to_be_disabled()
        self.page.get_by_role("checkbox", name="Begin it all the same").check()
        expect(button).to_be_enabled()
        self.walk(self.address("Withy knife", "build"))
        expect(self.page.get_by_role("list", name="From the rack")).to_be_visible()
        self.page.get_by_label("For whom").fill("The lock keeper")
        # what it is for says where the design is otherwise
        order = Order.objects.exclude(purpose="").filter(state="open").first()
        assert order
        self.page.get_by_label("For an order").click()
        self.page.get_by_role("option", name=re.compile(re.escape(order.title))).click()
        expect(self.page.get_by_role("note", name=f"For {order.purpose}")).to_be_visible()
        self.page.get_by_label("For whom").fill("The lock keeper")
        before = Movement.objects.count()
        self.page.get_by_role("button", name="Begin the build").click()
        expect(self.page.get_by_role("heading", name=re.compile(r"Cut \d+ pieces"))).to_be_visible()
        build = Build.objects.get(who="The lock keeper")
        self.assertEqual((build.state, build.title, bool(build.acts)), ("planned", "Withy knife", True))
        self.assertGreater(Movement.objects.count(), before)

    def test_a_helper_begins_nothing_but_writes(self) -> None:
        self.sign_in("helper")
        build = self.go("Marsh star for the fair")
        self.page.get_by_role("button", name="Note").click()
        self.page.get_by_label("What should be remembered of it?").fill("the belt wants changing")
        self.page.get_by_role("button", name="Keep", exact=True).click()
        expect(self.page.get_by_label("What to reach").get_by_text("the belt wants changing")).to_be_visible()
        self.kept()
        self.assertEqual(Record.objects.filter(build=build).last().by.get_username(), "wend")  # type: ignore[union-attr]


class SheetTests(BuildCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def test_nonsense_refused_measured_counted_looked_at_done(self) -> None:
        build = self.go("Eel splitter")
        before = Record.objects.filter(build=build).count()
        self.measure("width", "thick")
        expect(self.page.get_by_role("alert")).to_contain_text("is not a length")
        self.page.get_by_role("button", name="Done", exact=True).click()
        expect(self.page.get_by_role("heading", name="Draw out")).to_be_visible()
        self.assertEqual(Record.objects.filter(build=build).count(), before)
        self.measure("width", "1 7/16")
        self.measure("thickness", "6.9")
        expect(self.page.get_by_text("0.5 mm thicker: more passes, or the bar stays shorter")).to_be_visible()
        self.page.get_by_role("button", name="1 heat more").click()
        self.page.get_by_role("button", name="not good").first.click()
        expect(self.page.get_by_text("Straighten it in this heat")).to_be_visible()
        self.page.get_by_label("Took, minutes").fill("95")
        self.page.get_by_role("button", name="Done", exact=True).click()
        expect(self.page.get_by_role("heading", name="Grind")).to_be_visible()
        self.kept()
        last = [r.data for r in Record.objects.filter(build=build)][-5:]
        self.assertEqual([d["kind"] for d in last], ["measured", "measured", "measured", "checked", "done"])
        self.assertEqual((round(last[0]["value"], 2), last[0]["typed"], last[4]["minutes"]), (36.51, "1 7/16", 95.0))
        # and taken back
        self.page.get_by_role("button", name="Undo").click()
        expect(self.page.get_by_role("heading", name="Draw out")).to_be_visible()
        expect(self.page.get_by_role("button", name="Done", exact=True)).to_be_visible()

    def test_what_was_half_typed_is_there_again(self) -> None:
        self.go("Eel splitter")
        self.page.get_by_label("thickness, measured").press_sequentially("6.4")
        self.screen().quiet()
        # the battery is pulled: the page goes without a word
        other = self.new_page()
        self.page.close()
        self.go("Eel splitter", page=other)
        expect(other.get_by_label("thickness, measured")).to_have_value("6.4")

    def test_skipped_gone_wrong_once_more_and_only_the_keyboard(self) -> None:
        build = self.go("Eel splitter")
        self.page.get_by_role("button", name="Went wrong", exact=True).click()
        self.page.get_by_label("What is seen, and where?").fill("a crack near the handle")
        self.page.get_by_role("button", name="Write it down").click()
        expect(self.page.get_by_text("Went wrong: a crack near the handle")).to_be_visible()
        self.page.get_by_role("button", name="Skip").click()
        self.page.get_by_label("Why is it not done?").fill("forged by the striker yesterday")
        self.page.get_by_role("button", name="Write it down").click()
        # on it goes; what was skipped is found again
        expect(self.page.get_by_role("heading", name="Grind")).to_be_visible()
        self.page.keyboard.press("ArrowLeft")
        expect(self.page.get_by_text("Skipped: forged by the striker yesterday")).to_be_visible()
        self.page.get_by_role("button", name="Once more").click()
        self.page.get_by_role("button", name="Write it down").click()
        expect(self.page.get_by_role("button", name="Done", exact=True)).to_be_visible()
        self.kept()
        self.assertEqual(self.kinds(build)[-3:], ["fault", "skipped", "redone"])
        self.page.goto(f"{self.live_server_url}/build/{build.pk}/sheet")
        expect(self.page.get_by_role("heading", name="Draw out")).to_be_visible()
        self.page.keyboard.press("3")
        self.page.keyboard.type("6.2")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_label("width, measured")).to_have_value("36.2")
        self.page.keyboard.press("Escape")
        self.page.keyboard.press("t")
        expect(self.page.get_by_role("timer")).to_have_count(1)
        self.page.keyboard.press("ArrowLeft")
        expect(self.page.get_by_role("heading", name="Weld")).to_be_visible()
        self.page.keyboard.press("ArrowRight")
        self.page.keyboard.press("Space")
        expect(self.page.get_by_role("heading", name="Grind")).to_be_visible()

    def test_timers_run_on_ring_and_say_what_rang_meanwhile(self) -> None:
        self.page.clock.install()
        self.go("Eel splitter")
        self.page.get_by_role("button", name="turn it").click()
        self.page.get_by_role("link", name="Log", exact=True).click()
        timer = self.page.get_by_role("timer")
        expect(timer).to_be_visible()
        self.page.clock.fast_forward("04:00")
        expect(self.page.get_by_role("button", name="Heard")).to_have_count(0)
        self.page.clock.fast_forward("01:05")
        self.page.get_by_role("button", name="Heard").click()
        expect(self.page.get_by_role("button", name="Heard")).to_have_count(0)
        # again and again
        self.page.clock.fast_forward("05:00")
        self.page.get_by_role("button", name="Heard").click()
        # the tablet slept, and is opened again
        self.page.reload()
        expect(timer).to_be_visible()
        self.page.clock.fast_forward("05:00")
        expect(self.page.get_by_role("button", name="Heard")).to_be_visible()
        self.page.get_by_role("button", name="Stop: turn it").click()
        expect(timer).to_have_count(0)


class PaperTests(BuildCase):
    def printed(self, button: str) -> str:
        with self.page.expect_download() as got:
            self.page.get_by_role("button", name=button).click()
        return " ".join(p.extract_text() for p in PdfReader(got.value.path()).pages)

    def test_from_the_design_and_from_the_build(self) -> None:
        self.sign_in()
        self.page.goto(self.live_server_url + self.address("Withy knife", "build"))
        expect(self.page.get_by_role("list", name="From the rack")).to_be_visible()
        told = self.printed("Shop sheet")
        for word in ("Withy knife", "To cut", "R2, 1084", "Weld", "Take care"):
            self.assertIn(word, told)
        self.assertIn("100 mm", self.printed("Blade 1:1"))
        cuts, kiln = self.printed("What to cut"), self.printed("Hardening")
        self.assertTrue("To cut" in cuts and "Quench" not in cuts, cuts)
        self.assertTrue("Quench" in kiln and "To cut" not in kiln, kiln)
        self.go("Eel splitter", "sum")
        self.assertIn("Draw out", self.printed("Shop sheet"))
        self.assertIn("for Ferryman Dace", self.printed("Label"))


class OfflineTests(BuildCase):
    def ready(self) -> Build:
        """Opened once with the network there: shell and build are kept."""
        self.sign_in()
        build = self.go("Eel splitter")
        expect(self.page.get_by_role("heading", name="Draw out")).to_be_visible()
        self.page.evaluate("navigator.serviceWorker.ready")
        self.page.wait_for_function("caches.keys().then(async (k) => (await (await caches.open(k[0])).keys()).length > 20)")
        self.page.wait_for_function("navigator.serviceWorker.controller !== null")
        self.kept()
        return build

    def test_a_day_without_network(self) -> None:
        build = self.ready()
        before = Record.objects.filter(build=build).count()
        self.context.set_offline(True)
        self.measure("thickness", "6.5")
        status = self.page.get_by_role("status", name="Kept or waiting")
        expect(status).to_have_text("kept on this tablet, 1 waiting")
        # the tablet is put away and opened again by the fire
        self.page.reload()
        expect(self.page.get_by_role("heading", name="Draw out")).to_be_visible()
        expect(self.page.get_by_label("thickness, measured")).to_have_value("6.5")
        for heading in ("Grind", "Profile", "Normalise"):
            self.page.get_by_role("button", name="Done", exact=True).click()
            expect(self.page.get_by_role("heading", name=heading)).to_be_visible()
        expect(status).to_have_text("kept on this tablet, 4 waiting")
        self.page.goto(f"{self.live_server_url}/book")
        expect(self.page.get_by_text("These builds are kept on this tablet")).to_be_visible()
        expect(self.page.get_by_role("link", name=re.compile("Eel splitter"))).to_be_visible()
        self.context.set_offline(False)
        self.go("Eel splitter")
        self.kept()
        self.assertEqual(self.kinds(build)[before:], ["measured", "done", "done", "done"])

    def test_closed_before_it_was_sent(self) -> None:
        build = self.ready()
        self.context.set_offline(True)
        self.page.get_by_role("button", name="1 heat more").click()
        expect(self.page.get_by_role("status", name="Kept or waiting")).to_have_text("kept on this tablet, 1 waiting")
        other = self.new_page()
        self.page.close()
        self.context.set_offline(False)
        # any page of the shop sends what waits
        other.goto(f"{self.live_server_url}/bench")
        expect(other.get_by_role("heading", name="On the bench")).to_be_visible()
        self.until(lambda: Record.objects.filter(build=build, data__quantity="heats").exists(), other)

    def test_nothing_is_seen_by_who_signs_in_next(self) -> None:
        self.ready()
        self.page.get_by_role("button", name="You, your shop, units and light").click()
        self.page.get_by_role("button", name="Sign out").click()
        expect(self.page.get_by_role("button", name="as its helper")).to_be_visible()
        self.context.set_offline(True)
        self.page.reload()
        expect(self.page.get_by_text("Draw out")).to_have_count(0)
        left = self.page.evaluate(
            """new Promise((done) => { const ask = indexedDB.open('varistrat-builds'); ask.onsuccess = () => {
                const all = ask.result.transaction(['packs', 'pictures']); const n = [];
                for (const s of ['packs', 'pictures']) all.objectStore(s).count().onsuccess = (e) => n.push(e.target.result);
                all.oncomplete = () => done(n) } })"""
        )
        self.assertEqual(left, [0, 0])
        self.context.set_offline(False)


class TwoTabletsTests(BuildCase):
    def test_one_log(self) -> None:
        self.sign_in()
        build = self.go("Eel splitter")
        other = self.new_page()
        self.go("Eel splitter", page=other)
        expect(other.get_by_role("heading", name="Draw out")).to_be_visible()
        self.measure("width", "36.1")
        self.measure("thickness", "6.4", other)
        self.kept(other)
        self.kept()
        for page in (self.page, other):
            page.reload()
            expect(page.get_by_label("width, measured")).to_have_value("36.1")
            expect(page.get_by_label("thickness, measured")).to_have_value("6.4")
        self.assertEqual(self.kinds(build)[-2:], ["measured", "measured"])


class LogAndBookTests(BuildCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def test_short_an_entry_taken_back_and_the_plan_changed(self) -> None:
        build = self.go("Eel splitter", "log")
        self.page.get_by_role("button", name="Weld").click()
        row = self.page.get_by_role("listitem").filter(has_text="length 80")
        row.get_by_role("button", name="Take back").click()
        expect(row.get_by_role("button", name="Count it again")).to_be_visible()
        expect(self.page.get_by_text("12.2 mm shorter")).to_have_count(0)
        row.get_by_role("button", name="Count it again").click()
        expect(self.page.get_by_text("12.2 mm shorter")).to_be_visible()
        expect(self.page.get_by_role("heading", name="The bar is 8 mm too short")).to_be_visible()
        self.page.get_by_role("listitem", name=re.compile("Make the tang")).get_by_role("button", name="Change the plan so").click()
        expect(self.page.get_by_text("to spare, the reserve and the bad ends reckoned in")).to_be_visible()
        build.refresh_from_db()
        self.assertEqual((build.current, self.kinds(build)[-1]), (2, "amended"))
        self.page.get_by_role("link", name="Sum-up").click()
        expect(self.page.get_by_text("Make the tang").first).to_be_visible()

    def test_the_book_and_what_it_tells(self) -> None:
        self.page.goto(f"{self.live_server_url}/book")
        expect(self.page.get_by_role("link", name=re.compile("Eel splitter"))).to_be_visible()
        self.page.get_by_role("radio", name="all").click()
        self.page.get_by_label("Find a build").fill("open weld")
        expect(self.page.get_by_role("link", name=re.compile("yield"))).to_have_count(2)
        expect(self.page.get_by_role("region", name="Yield")).to_contain_text("%")
        self.page.get_by_role("link", name="Bench", exact=True).click()
        going = self.page.get_by_role("region", name="Going on")
        expect(going.get_by_role("link")).to_have_count(2)
        going.get_by_role("link", name=re.compile("Eel splitter.*Draw out")).click()
        expect(self.page.get_by_role("heading", name="Draw out")).to_be_visible()

    def test_what_the_book_teaches_is_used_only_when_one_says_so(self) -> None:
        self.page.goto(f"{self.live_server_url}/book?show=learned")
        sanding = self.page.get_by_role("listitem", name="finish grind and sanding")
        expect(sanding).to_contain_text("times ours")
        self.assertFalse(ShopFigure.objects.filter(key="time_sand").exists())
        sanding.get_by_role("button", name=re.compile("use it|Use")).click()
        expect(sanding).to_contain_text("You plan with it.")
        self.assertGreater(ShopFigure.objects.get(key="time_sand").value, 1.2)
        self.walk("/book?show=orders")
        self.page.get_by_role("button", name="New order").click()
        self.page.get_by_label("What is wanted").fill("Osier knife")
        self.page.get_by_label("For whom").fill("The basket school")
        self.page.get_by_label("Price, in your own money").fill("a cow")
        self.page.get_by_role("button", name="Keep", exact=True).click()
        expect(self.page.get_by_text("is not a number")).to_be_visible()
        self.page.get_by_label("Price, in your own money").fill("180")
        self.page.get_by_role("button", name="Keep", exact=True).click()
        self.page.get_by_role("button", name=re.compile("Osier knife")).click()
        self.page.get_by_role("radio", name="delivered").click()
        self.page.get_by_role("button", name="Keep", exact=True).click()
        expect(self.page.get_by_text("delivered")).to_be_visible()
        self.assertEqual(Order.objects.get(who="The basket school").price, 180.0)


class PhoneTests(BuildCase):
    viewport = (390, 844)
    theme = "dark"

    def test_with_gloves(self) -> None:
        self.sign_in()
        build = self.go("Eel splitter")
        self.page.get_by_label("width, measured").click()
        for key in ("3", "6", ".", "2", "rub out", "4"):
            self.page.get_by_role("button", name=key, exact=True).click()
        self.page.get_by_role("button", name="OK", exact=True).click()
        expect(self.page.get_by_label("width, measured")).to_have_value("36.4")
        self.kept()
        self.assertEqual(Record.objects.filter(build=build).last().data["value"], 36.4)  # type: ignore[union-attr]
        small = self.page.evaluate(
            """[...document.querySelectorAll('main button, main input:not([tabindex="-1"]), footer a')].filter((e) => {
                const r = e.getBoundingClientRect();
                return r.width && (r.height < 43 || r.width < 43) }).map((e) => e.textContent || e.ariaLabel)"""
        )
        self.assertEqual(small, [])
