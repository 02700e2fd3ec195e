"""For everyone: nothing serious for axe, light and dark; tablet and narrow windows."""

from playwright.sync_api import expect

from tests.e2e.base import BrowserCase


class LightTests(BrowserCase):
    def test_axe_finds_nothing_serious(self) -> None:
        self.page.goto(self.live_server_url)
        expect(self.page.get_by_role("button", name="Enter the demo shop")).to_be_visible()
        self.assertEqual(self.serious(), [], "sign-in")
        self.open("Sedge knife, bold twist")
        for chosen in ("start", "3", "blade"):
            self.page.locator(f"[data-chosen-id='{chosen}']").click()
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
        self.page.wait_for_load_state("networkidle")
        self.assertEqual(self.serious(), [], "bench")
        self.page.get_by_role("link", name="Steels").click()
        expect(self.page.get_by_role("heading", name="Steels")).to_be_visible()
        self.assertEqual(self.serious(), [], "steels")

    def test_axe_finds_nothing_serious_where_the_core_is_steered(self) -> None:
        self.open("Osier peeler, core off centre")
        self.page.get_by_role("link", name="Grind", exact=True).click()
        expect(self.page.get_by_test_id("steered")).to_be_visible()
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
            .map(([e, b]) => (e.getAttribute('aria-label') || e.textContent).slice(0, 40) + ` ${Math.round(b.width)}x${Math.round(b.height)}`)"""
        )
        self.assertEqual(small, [])


class DarkTests(LightTests):
    theme = "dark"


class TabletTests(BrowserCase):
    viewport = (1024, 768)

    def test_all_of_design_fits_a_tablet(self) -> None:
        self.open("Sedge knife, bold twist")
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 1024)
        for place in ("face-left", "face-right", "bar-face", "bar-end", "facts"):
            expect(self.page.get_by_test_id(place)).to_be_in_viewport()
        self.page.locator("[data-chosen-id='3']").click()
        expect(self.page.get_by_text("One turn in").locator("visible=true")).to_be_visible()


class NarrowTests(BrowserCase):
    viewport = (480, 900)

    def test_a_narrow_window_still_works(self) -> None:
        self.open("Sedge knife, bold twist")
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 480)
        self.page.locator("[data-chosen-id='3']").click()
        turns = self.page.get_by_label("Turns", exact=True)
        turns.scroll_into_view_if_needed()
        with self.face_changes():
            turns.fill("3")
            turns.press("Enter")
        self.page.get_by_role("link", name="Bench", exact=True).click()
        expect(self.page.get_by_role("heading", name="On the bench")).to_be_visible()
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), 480)
