"""An instrument in the real browser: a stand-in's line, and one on a cable; shown first, put where the cursor is when it is confirmed."""

from playwright.sync_api import expect

from tests.e2e.base import BrowserCase

_CABLE = """() => { const feed = new TransformStream(); window.send = t => { const w = feed.writable.getWriter();
  w.write(new TextEncoder().encode(t)).finally(() => w.releaseLock()); };
  window.unplug = () => feed.writable.abort(new Error('gone'));
  Object.defineProperty(navigator, 'serial', {configurable: true, value: {requestPort: async () =>
    ({open: async o => { window.rate = o.baudRate; }, close: async () => {}, readable: feed.readable})}}); }"""


class InstrumentTests(BrowserCase):
    def menu(self) -> None:
        self.page.get_by_role("button", name="You, your shop, units and light").click()
        self.page.get_by_role("button", name="Instruments").click()

    def test_a_stand_in_into_the_field_that_has_the_focus(self) -> None:
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/practice/new/core_centred?seed=1")
        field = self.page.get_by_label("Over", exact=True)
        field.click()
        self.menu()
        dialog = self.page.get_by_role("dialog")
        line = dialog.get_by_label("A stand-in", exact=False)
        line.fill("ready")
        dialog.get_by_role("button", name="Send it").click()
        expect(dialog.get_by_text("ends in no number with a unit")).to_be_visible()
        bar = self.page.get_by_role("status", name="The instrument")
        expect(bar).to_have_count(0)
        line.fill("ID 7 +042.50 mm")
        dialog.get_by_role("button", name="Send it").click()
        expect(bar).to_contain_text("42.5 mm")
        expect(field).to_have_value("60")
        self.page.keyboard.press("Escape")
        expect(bar).to_have_count(0)

    def test_one_on_a_cable_is_shown_and_confirmed_by_enter(self) -> None:
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/practice/new/core_centred?seed=1")
        expect(self.page.get_by_label("Over", exact=True)).to_have_value("60")
        self.page.evaluate(_CABLE)
        self.menu()
        dialog = self.page.get_by_role("dialog")
        dialog.get_by_role("button", name="Connect one").click()
        expect(dialog.get_by_role("button", name="Let it go")).to_be_visible()
        self.assertEqual(self.page.evaluate("window.rate"), 9600)
        self.page.keyboard.press("Escape")
        field = self.page.get_by_label("Over", exact=True)
        field.click()
        self.page.evaluate("window.send('2.')")
        self.page.evaluate("window.send('5 in\\r\\n')")
        bar = self.page.get_by_role("status", name="The instrument")
        expect(bar).to_contain_text("63.5 mm")
        expect(bar.get_by_role("button", name="Into Over")).to_be_visible()
        expect(field).to_have_value("60")
        self.page.keyboard.press("Enter")
        expect(field).to_have_value("63.5")
        expect(bar).to_have_count(0)
        # a hand that types is not disturbed
        field.fill("70")
        field.press("Enter")
        expect(field).to_have_value("70")
        self.page.evaluate("window.unplug()")
        self.menu()
        expect(self.page.get_by_role("dialog")).to_contain_text("It went away")
