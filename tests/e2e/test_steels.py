"""Steels and pairing in the real interface: look up, override, add, take back, compare; keyboard; degrees."""

from playwright.sync_api import expect

from tests.e2e.base import BrowserCase


class SteelsTests(BrowserCase):
    def open_steels(self) -> None:
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/steels")
        expect(self.page.get_by_role("heading", name="1084", exact=True)).to_be_visible()

    def test_a_tone_of_the_shops_own_nonsense_and_other_degrees(self) -> None:
        self.open_steels()
        tone = self.field("Ferric chloride")
        tone.fill("3.5")
        tone.press("Enter")
        expect(self.page.get_by_text("Put in by your shop.")).to_be_visible()
        expect(self.page.get_by_role("button", name="1084").get_by_text("yours in part")).to_be_visible()
        self.page.get_by_role("button", name="As it ships").click()
        expect(tone).to_have_value("1")
        self.page.get_by_role("button", name="Undo").click()
        expect(tone).to_have_value("3.5")
        melts = self.field("Begins to melt")
        melts.fill("900")
        melts.press("Enter")
        expect(self.page.get_by_text("begins to melt at 900").first).to_be_visible()
        melts.fill("hot")
        melts.press("Enter")
        expect(self.page.get_by_text("is not a temperature")).to_be_visible()
        self.page.reload()
        expect(self.field("Begins to melt")).to_have_value("1360")
        self.screen().units(temperature="°F")
        expect(self.field("Begins to melt")).to_have_value("2480")
        forge = self.field("Forge, from")
        forge.fill("1500")
        forge.press("Enter")
        self.screen().units(temperature="°C")
        expect(forge).to_have_value("816")

    def test_found_told_by_the_address_and_a_number_of_the_shops_own(self) -> None:
        self.open_steels()
        self.page.get_by_label("Find a steel").fill("razor")
        self.page.get_by_role("button", name="X65Cr13").click()
        expect(self.page.get_by_role("heading", name="X65Cr13 razor stainless")).to_be_visible()
        self.page.get_by_label("Find a steel").fill("mithril")
        expect(self.page.get_by_text("No steel of that name.")).to_be_visible()
        self.page.get_by_label("Find a steel").fill("")
        self.page.get_by_role("navigation", name="Steels").get_by_role("button", name="15N20").click()
        heading = self.page.get_by_role("heading", name="15N20 nickel strip", exact=True)
        expect(heading).to_be_visible()
        self.page.reload()
        expect(heading).to_be_visible()
        self.page.get_by_text("Numbers of your shop").click()
        expect(heading).to_have_count(0)
        self.page.reload()
        expect(self.page.get_by_role("radio", name="Numbers of your shop")).to_be_checked()
        self.page.go_back()
        expect(heading).to_be_visible()
        self.page.get_by_text("Numbers of your shop").click()
        line = self.page.get_by_role("listitem").filter(has_text="Scale in air")
        line.get_by_label("Scale in air, or a lean flame").fill("1.5")
        line.get_by_label("Scale in air, or a lean flame").press("Enter")
        expect(line).to_contain_text("Your own; ours is 1 ×.")
        line.get_by_role("button", name="Use 1").click()
        expect(line).to_contain_text("Indicative")

    def test_a_reclaimed_steel_from_coupons(self) -> None:
        self.open_steels()
        self.page.get_by_role("button", name="Add a steel").click()
        self.field("What you call it").fill("Cart spring")
        self.page.get_by_text("I have only tried coupons").click()
        self.page.get_by_text("none, straight lines").click()
        self.field("Thin coupon quenched in water").fill("62")
        self.page.get_by_role("button", name="What would it be?").click()
        expect(self.page.get_by_text("contradict one another")).to_be_visible()
        self.page.get_by_text("many", exact=True).click()
        self.page.get_by_text("skates").click()
        self.page.get_by_role("button", name="What would it be?").click()
        expect(self.page.get_by_text("hard in oil: some alloy")).to_be_visible()
        self.page.get_by_role("button", name="Put it in the list").click()
        expect(self.page.get_by_role("heading", name="Cart spring")).to_be_visible()
        expect(self.page.get_by_text("worked out").first).to_be_visible()
        self.page.get_by_role("button", name="Take it out", exact=True).click()
        expect(self.page.get_by_role("heading", name="1084", exact=True)).to_be_visible()

    def test_the_list_out_and_in_again(self) -> None:
        self.open_steels()
        with self.page.expect_download() as waiting:
            self.page.get_by_role("link", name="Save the list as CSV").click()
        text = waiting.value.path().read_text().replace("1084,1084,", "1084,Our 1084,", 1)
        chosen = {"name": "steels.csv", "mimeType": "text/csv", "buffer": text.encode()}
        self.page.get_by_label("CSV file", exact=True).set_input_files(chosen)
        expect(self.page.get_by_role("heading", name="Our 1084")).to_be_visible()
        self.page.get_by_label("CSV file", exact=True).set_input_files({**chosen, "buffer": b"key,C\n1084,lots\n"})
        expect(self.page.get_by_text("is no number")).to_be_visible()


class PairingTests(BrowserCase):
    def open_pairing(self) -> None:
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/pairing")
        expect(self.page.get_by_text("They go together.")).to_be_visible()

    def test_the_matrix_by_keyboard(self) -> None:
        self.open_pairing()
        on = self.page.locator("table [aria-pressed=true]")
        expect(on).to_have_accessible_name("1084 and 15N20 nickel strip: goes together")
        on.focus()
        self.page.keyboard.press("ArrowDown")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("Not for this.")).to_be_visible()
        expect(self.page.get_by_text("not all harden").or_(self.page.get_by_text("does not harden")).first).to_be_visible()
        self.page.get_by_text("Fittings", exact=True).click()
        expect(self.page.get_by_text("Guards, bolsters")).to_be_visible()

    def test_three_steels_in_parts_and_a_reload(self) -> None:
        self.open_pairing()
        self.page.get_by_role("button", name="+ another steel").click()
        self.page.get_by_role("button", name="Steel 3:").click()
        self.page.get_by_role("option", name="O1").click()
        parts = self.field("Parts of steel 1")
        parts.fill("3")
        parts.press("Enter")
        expect(self.page.get_by_text("Fast oil hardens all, but is fast for O1.")).to_be_visible()
        self.page.reload()
        expect(self.field("Parts of steel 1")).to_have_value("3")
        self.page.get_by_role("button", name="Take steel 3 out").click()
        expect(self.page.get_by_text("They go together.")).to_be_visible()
        self.walk("/pairing?steels=mithril,1084&shares=x")
        expect(self.page.get_by_text("They go together.")).to_be_visible()

    def test_what_it_is_for_survives_a_reload_and_shapes_the_design(self) -> None:
        self.open_pairing()
        self.page.get_by_role("button", name="Steel 2:").click()
        self.page.get_by_role("option", name="1018 mild steel").click()
        self.page.get_by_text("Core and clad", exact=True).click()
        expect(self.page.get_by_text("each keeps its own carbon")).to_be_visible()
        self.page.reload()
        expect(self.page.get_by_role("radio", name="Core and clad")).to_be_checked()
        self.page.get_by_role("button", name="Begin a design with both").click()
        self.settled()
        # mild, 1084, mild: the core shows on both faces
        expect(self.page.get_by_text("Core line, right")).to_be_visible()
        self.page.go_back()
        expect(self.page.get_by_role("radio", name="Core and clad")).to_be_checked()
