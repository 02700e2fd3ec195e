"""For everyone: nothing for axe by any of its rules, at three widths, light and dark; tablet and narrow windows; units; the keyboard."""

from playwright.sync_api import expect

from tests.e2e.base import BrowserCase


class LightTests(BrowserCase):
    def test_axe_finds_nothing_serious(self) -> None:
        self.page.goto(self.live_server_url)
        expect(self.page.get_by_role("button", name="Enter the demo shop")).to_be_visible()
        self.assertEqual(self.serious(), [], "sign-in")
        self.open("Sedge knife, bold twist")
        for chosen in ("start", "3", "blade"):
            self.bar(chosen).click()
            self.settled()
            self.assertEqual(self.serious(), [], f"design, {chosen}")
        self.page.get_by_role("link", name="Grind", exact=True).click()
        for tab in ("Core line", "Tolerances", "Test etch", "Bevel plan", "Edge and weight"):
            self.page.get_by_role("tab", name=tab, exact=True).click()
            self.settled()
            self.assertEqual(self.serious(), [], f"grind, {tab}")
        self.page.keyboard.press("?")
        expect(self.page.get_by_role("heading", name="How it works")).to_be_visible()
        self.page.wait_for_timeout(300)
        self.assertEqual(self.serious(), [], "help")
        self.page.keyboard.press("Escape")
        self.page.get_by_role("link", name="Bench", exact=True).click()
        self.screen().quiet()
        self.assertEqual(self.serious(), [], "bench")
        self.page.get_by_role("link", name="Steels").click()
        expect(self.page.get_by_role("heading", name="Steels")).to_be_visible()
        self.assertEqual(self.serious(), [], "steels")

    def test_axe_finds_nothing_serious_where_the_core_is_steered(self) -> None:
        self.open("Osier peeler, core off centre")
        self.page.get_by_role("link", name="Grind", exact=True).click()
        expect(self.page.get_by_role("region", name="What the test etch says")).to_be_visible()
        self.assertEqual(self.serious(), [], "test etch")
        self.page.get_by_role("button", name="Pick on a photo").click()
        expect(self.page.get_by_role("heading", name="Pick the core line on a photo")).to_be_visible()
        self.page.wait_for_timeout(300)
        self.assertEqual(self.serious(), [], "photo")

    def test_buttons_and_fields_can_be_hit_with_a_thumb(self) -> None:
        self.open("Sedge knife, bold twist")
        small = self.page.evaluate(
            """[...document.querySelectorAll('button, a[href], input:not([type=range]):not([type=file])')]
            .map(e => [e, e.getBoundingClientRect()]).filter(([, b]) => b.width && (b.height < 40 || b.width < 36))
            .map(([e, b]) => (e.getAttribute('aria-label') || e.textContent).slice(0, 40) + `
            ${Math.round(b.width)}x${Math.round(b.height)}`)"""
        )
        self.assertEqual(small, [])


class DarkTests(LightTests):
    theme = "dark"


class EveryScreenTests(BrowserCase):
    """All rules on every screen."""

    def look_everywhere(self) -> None:
        wrong: list[object] = []

        def look(where: str) -> None:
            wrong.extend((where, w) for w in self.serious())

        self.open("Sedge knife, bold twist")
        for chosen in ("start", "3", "blade"):
            self.bar(chosen).click()
            self.settled()
            look(f"design, {chosen}")
        for place, tabs in (
            ("Stock", ("Piles", "Cut list", "Time and money")),
            ("Heat", ("Fires", "Carbon", "Hardening", "Kiln")),
            ("Grind", ("Core line", "Tolerances", "Test etch", "Bevel plan", "Edge and weight")),
        ):
            self.page.get_by_role("link", name=place, exact=True).click()
            for tab in tabs:
                self.page.get_by_role("tab", name=tab, exact=True).click()
                self.settled()
                look(f"{place}, {tab}")
            self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), self.viewport[0], place)
        places = {"/": "On the bench", "/rack": "Rack", "/pairing": "Pairing", "/steels": "Steels", "/compare": "Side by side"}
        places |= {"/compare/suits": "Which suits my hand", "/looks": "A wanted look", "/practice": "Practice", "/help": "Help"}
        places |= {"/book": "Book", "/baths": "Baths", "/shop": "The shop"}
        for path, heading in places.items():
            self.page.goto(self.live_server_url + path)
            expect(self.page.get_by_role("heading", level=1).first).to_be_attached()
            self.screen().quiet()
            look(heading)
            self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), self.viewport[0], path)
        self.assertEqual(wrong, [])

    def test_wide(self) -> None:
        self.look_everywhere()


class EveryScreenTabletTests(EveryScreenTests):
    viewport = (1024, 768)
    theme = "dark"


class EveryScreenPhoneTests(EveryScreenTests):
    viewport = (390, 844)


class UnitsTests(BrowserCase):
    """In inches, Fahrenheit and ounces nothing speaks millimetres, Celsius or grams."""

    METRIC = r"\d ?(?:mm\b|°?C\b(?!°)|µm|g\b|kg\b)"

    def test_everything_speaks_the_users_units(self) -> None:
        self.page.goto(self.live_server_url)
        self.page.get_by_role("button", name="Enter the demo shop").click()
        expect(self.page.get_by_role("heading", name="On the bench")).to_be_visible()
        self.screen().units(length="inch, 0.25", temperature="°F", weight="oz, lb")
        found: list[object] = []
        for design in ("Sedge knife, bold twist", "Osier peeler, core off centre"):
            self.page.get_by_role("link", name="Bench", exact=True).click()
            self.page.get_by_role("link", name=design, exact=True).click()
            expect(self.page.get_by_alt_text("Right face of the blade as")).to_be_visible()
            for chosen in ("start", "0", "1", "blade"):
                self.bar(chosen).click()
                self.settled()
                found += self.metric(f"{design}, {chosen}")
            for place, tabs in (
                ("Stock", ("Piles", "Cut list", "Time and money")),
                ("Heat", ("Fires", "Hardening")),
                ("Grind", ("Core line", "Edge and weight")),
            ):
                self.page.get_by_role("link", name=place, exact=True).click()
                for tab in tabs:
                    self.page.get_by_role("tab", name=tab, exact=True).click()
                    self.settled()
                    self.page.wait_for_timeout(400)
                    found += self.metric(f"{design}, {place}, {tab}")
        self.assertEqual(found, [])

    def metric(self, where: str) -> list[object]:
        said: list[str] = self.page.evaluate(
            """(p) => document.body.innerText.split('\\n').filter(l => new RegExp(p).test(l)).map(l => l.slice(0, 160))""", self.METRIC
        )
        return [(where, line) for line in said]

    def test_a_field_never_changes_a_number_that_was_not_typed(self) -> None:
        self.page.goto(self.live_server_url)
        self.page.get_by_role("button", name="Enter the demo shop").click()
        self.screen().units(length="inch, 1/4")
        self.page.get_by_role("link", name="Sedge knife, bold twist", exact=True).click()
        self.bar(0).click()
        field = self.page.get_by_label("Thickness after", exact=True)
        expect(field).to_be_visible()
        for key in ("Enter", "Tab"):
            field.focus()
            field.press(key)
        expect(self.page.get_by_role("button", name="Undo (Z)")).to_be_disabled()
        field.fill("1 1/32")
        field.press("Enter")
        expect(field).to_have_value("1 1/32")
        expect(self.page.get_by_role("button", name="Undo (Z)")).to_be_enabled()


class KeyboardTests(BrowserCase):
    def test_the_keyboard_goes_on_where_the_work_does(self) -> None:
        self.open("Sedge knife, bold twist")
        self.assertEqual(self.screen().focused(), "MAIN")
        self.bar(3).click()
        self.page.get_by_role("button", name="Remove this step").click()
        self.page.wait_for_timeout(100)
        self.assertEqual(self.screen().focused(), "3")

    def test_tabs_have_arrows(self) -> None:
        self.open("Sedge knife, bold twist")
        self.page.get_by_role("link", name="Heat", exact=True).click()
        self.page.get_by_role("tab", name="Fires", exact=True).focus()
        self.page.keyboard.press("ArrowRight")
        expect(self.page.get_by_role("tab", name="Carbon", exact=True)).to_have_attribute("aria-selected", "true")

    def test_the_first_zone_keeps_the_turns(self) -> None:
        self.open("Sedge knife, bold twist")
        self.bar(3).click()
        turns = float(self.page.get_by_label("Turns", exact=True).input_value())
        self.page.get_by_role("button", name="zones", exact=False).first.click()
        self.page.get_by_role("button", name="Zone", exact=True).click()
        expect(self.page.get_by_label("Turns", exact=True).last).to_have_value(f"{turns:g}")

    def test_print_holds_the_whole_plan(self) -> None:
        self.open("Sedge knife, bold twist")
        self.page.wait_for_timeout(1200)
        bars = self.screen().bars()
        self.page.emulate_media(media="print")
        plan = self.page.get_by_label("The whole plan")
        expect(plan).to_be_visible()
        self.assertEqual(plan.get_by_role("listitem").count(), bars - 1)


class TabletTests(BrowserCase):
    viewport = (1024, 768)

    def test_all_of_design_fits_a_tablet(self) -> None:
        self.open("Sedge knife, bold twist")
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 1024)
        for picture in ("Left face of the blade as", "Right face of the blade as", "Face of the bar ground"):
            expect(self.page.get_by_role("img", name=picture)).to_be_in_viewport()
        expect(self.page.get_by_role("img", name="End grain", exact=True)).to_be_in_viewport()
        expect(self.page.get_by_label("What it comes to")).to_be_in_viewport()
        self.bar(3).click()
        expect(self.page.get_by_text("One turn in").locator("visible=true")).to_be_visible()


class NarrowTests(BrowserCase):
    viewport = (480, 900)

    def test_a_narrow_window_still_works(self) -> None:
        self.open("Sedge knife, bold twist")
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 480)
        self.bar(3).click()
        turns = self.page.get_by_label("Turns", exact=True)
        turns.scroll_into_view_if_needed()
        with self.face_changes():
            turns.fill("3")
            turns.press("Enter")
        self.page.get_by_role("link", name="To the bench").click()
        expect(self.page.get_by_role("heading", name="On the bench")).to_be_visible()
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 480)
