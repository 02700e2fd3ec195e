"""Stock and rack in the real browser: from a short design to a cut list, from an empty rack to bars in it."""

import re
from datetime import datetime
from pathlib import Path
from xml.etree import ElementTree

from icalendar import Calendar
from playwright.sync_api import expect

from tests.e2e.base import BrowserCase
from varistrat.designs.models import Design
from varistrat.rack.models import Item, Movement
from varistrat.rack.services import there

SHORT = "Eel splitter, a thumb short"


class StockTests(BrowserCase):
    def stock(self, name: str, tab: str = "piles") -> None:
        self.open(name, f"stock/{tab}", settled=False)

    def test_from_a_short_design_to_a_cut_list_on_paper(self) -> None:
        self.stock(SHORT)
        enough = self.page.get_by_role("region", name="Enough or not")
        expect(enough).to_contain_text("8.8 mm too short")
        ways = self.page.get_by_role("region", name="Ways out")
        expect(ways.get_by_role("listitem")).not_to_have_count(0)
        expect(ways.get_by_alt_text("Right face of the blade so")).not_to_have_count(0)
        for gives in ("Cut the pile 75 mm long.", "Draw the bar thinner", "Make the tang"):
            expect(ways.get_by_text(gives)).to_be_visible()
        ways.get_by_role("listitem", name="Cut the pile 75 mm long.").get_by_role("button", name="Take this").click()
        expect(enough).to_contain_text("to spare")
        self.page.get_by_role("button", name="Undo", exact=True).first.click()
        expect(enough).to_contain_text("too short")
        # the same from the piles
        self.page.get_by_role("region", name="Piles").get_by_role("button", name="Make it 75 mm").click()
        expect(enough).to_contain_text("to spare")
        expect(self.page.get_by_role("region", name="Piles")).to_contain_text("as it must be")
        self.page.get_by_role("tab", name="Cut list").click()
        expect(self.page.get_by_text("9 pieces from 2 bars")).to_be_visible()
        expect(self.page.get_by_text("No other way buys less from outside")).to_be_visible()
        # the demo rack's patterned offcuts, for what goes on this blade
        offcuts = self.page.get_by_role("region", name="From your offcuts")
        expect(offcuts.get_by_text("Pair of bolsters", exact=False)).to_be_visible()
        expect(offcuts.get_by_role("link").first).to_have_attribute("href", re.compile("/rack"))
        self.settled()
        with self.page.expect_download() as got:
            self.page.get_by_role("button", name="Save the cut list as CSV").click()
        rows = Path(got.value.path()).read_text().splitlines()
        self.assertEqual(len(rows), 10)
        with self.page.expect_download() as got:
            self.page.get_by_role("button", name="Save the drawing as SVG").click()
        drawn = ElementTree.parse(got.value.path())
        # nine pieces, a saw cut behind each of them, two ends that are left
        self.assertEqual(len(drawn.findall("{http://www.w3.org/2000/svg}rect")), 9 + 9 + 2)
        self.page.emulate_media(media="print")
        paper = self.page.get_by_role("region", name="Cut list on paper")
        expect(paper.get_by_text("☐")).to_have_count(9)
        expect(paper).to_contain_text(f"Cut list: {SHORT}")
        expect(self.page.get_by_role("button", name="Lay out anew")).not_to_be_visible()
        self.page.emulate_media(media="screen")

    def test_a_piece_goes_to_another_bar_by_keyboard(self) -> None:
        self.stock("Osier peeler, well centred", "cuts")
        bars = self.page.get_by_role("list", name="Bars to cut").get_by_role("listitem")
        expect(bars).to_have_count(2)
        expect(bars.first).to_contain_text("R22")
        bars.first.get_by_role("button", name="layer 1,").focus()
        self.page.keyboard.press("Enter")
        self.page.get_by_role("button", name="would serve a piece").click()
        other = self.page.get_by_role("region", name="Other bars that would serve").get_by_role("listitem").filter(has_text="R21")
        other.get_by_role("button", name="Lay it here").click()
        expect(bars).to_have_count(3)
        expect(bars.filter(has_text="R21").get_by_role("button", name="layer 1,")).to_be_visible()
        expect(self.page.get_by_text("Partly laid out by hand.")).to_be_visible()
        # a layer of another steel does not come from it, and it says so
        bars.filter(has_text="R19").get_by_role("button", name="layer 2,").click()
        bars.filter(has_text="R21").get_by_role("button", name="Lay it here").click()
        expect(self.page.get_by_text("layer 2 is not of it")).to_be_visible()
        expect(self.page.get_by_role("button", name="Take it out of the rack")).to_be_disabled()
        self.page.get_by_label("How it is cut").get_by_role("button", name="Undo").click()
        self.page.get_by_role("button", name="Lay out anew").click()
        expect(bars).to_have_count(2)

    def test_a_layer_is_piled_of_sheets_steel_taken_out_and_put_back(self) -> None:
        self.stock("Sedge knife, bold twist", "cuts")
        buy = self.page.get_by_role("region", name="What to buy")
        expect(buy).to_contain_text("3 x 3 mm of R14 for 9 mm")
        with self.face_changes():
            buy.get_by_role("button", name="Pile it so").click()
        expect(buy).to_contain_text("Nothing to buy")
        expect(self.page.get_by_text("9 pieces from ")).to_be_visible()
        self.walk(self.address(SHORT, "stock/cuts"))
        expect(self.page.get_by_role("list", name="Bars to cut").get_by_role("listitem")).to_have_count(2)
        before = {i.code: there(i) for i in Item.objects.all()}
        taken = Movement.objects.filter(kind="taken", design=Design.objects.get(name=SHORT))
        earlier = taken.count()
        self.page.get_by_role("button", name="Take it out of the rack").click()
        expect(self.page.get_by_text("Taken out of the rack for this design.")).to_be_visible()
        self.assertEqual(taken.count(), earlier + 2)
        aside = self.page.get_by_role("region", name="Taken for this design")
        expect(aside.get_by_role("listitem").filter(has_text="R")).not_to_have_count(0)
        # the build begins with what was taken, and takes nothing again
        self.walk(self.address(SHORT, "build"))
        expect(aside).to_be_visible()
        expect(self.page.get_by_role("radio", name="as it was taken")).to_be_checked()
        expect(self.page.get_by_role("list", name="From the rack")).to_have_count(0)
        self.walk(self.address(SHORT, "stock/cuts"))
        aside.get_by_role("button", name="Put it back").click()
        expect(aside).to_have_count(0)
        after = {i.code: there(i) for i in Item.objects.all()}
        self.assertEqual({c: n for c, n in after.items() if c in before}, before)

    def test_the_reserve_by_hand_and_by_the_risk(self) -> None:
        self.stock(SHORT)
        chart = self.page.get_by_role("figure", name="Chance of coming up short")
        expect(chart).to_contain_text("With 10 % you come up short")
        # the curve itself, drawn although it comes later than the place it stands in
        expect(chart.get_by_role("img")).to_be_visible()
        need = self.page.get_by_role("region", name="Enough or not")
        was = need.inner_text()
        self.page.get_by_role("radio", name="by the risk").click()
        expect(need).not_to_have_text(was)
        expect(self.field("Comes up short, at most")).to_have_value("5")
        expect(self.page.get_by_text("comes up short 1 time in 20")).to_be_visible()
        self.field("Comes up short, at most").fill("nonsense")
        self.field("Comes up short, at most").press("Enter")
        expect(self.page.get_by_text("is not a share")).to_be_visible()
        self.saved()
        self.page.reload()
        expect(self.field("Comes up short, at most")).to_have_value("5")
        expect(chart.get_by_role("img")).to_be_visible()
        self.walk(self.address("Four-way bar for ferrules", "stock"))
        expect(self.page.get_by_text("There is no blade to say how long the bar must be")).to_be_visible()
        self.field("The finished bar must be").fill("150")
        self.field("The finished bar must be").press("Enter")
        expect(self.page.get_by_role("region", name="Enough or not")).to_contain_text("to spare")

    def test_days_and_money_follow_the_shops_hours(self) -> None:
        self.stock("Punt builder's spoke knife", "time")
        days = self.page.get_by_role("region", name="Day by day")
        expect(days.get_by_text("Twist left, 17")).to_be_visible()
        expect(days.get_by_text("bars 1, 2, 3:").first).to_be_visible()
        self.field("Begun on").fill("2031-06-02")
        expect(days.get_by_role("heading", name="Mon, Jun 2")).to_be_visible()
        money = self.page.get_by_role("region", name="Money")
        was = money.inner_text()
        count = days.get_by_role("heading").count()
        with self.page.expect_download() as got:
            self.page.get_by_role("button", name="Into your calendar (.ics)").click()
        calendar = Calendar.from_ical(Path(got.value.path()).read_bytes())
        blocks = [e for e in calendar.walk("VEVENT") if "at the bench" in e["SUMMARY"]]
        self.assertEqual(min(e["DTSTART"].dt for e in blocks), datetime(2031, 6, 2, 8, 0))
        self.assertIn("bars 1, 2, 3: ", str(blocks[0]["DESCRIPTION"]))
        self.field("Hours at work in a day").fill("2")
        self.field("Hours at work in a day").press("Enter")
        expect(days.get_by_role("heading")).not_to_have_count(count)
        self.assertEqual(money.inner_text(), was)
        self.field("An hour of yours").fill("50")
        self.field("An hour of yours").press("Enter")
        expect(money).not_to_have_text(was)


class RackTests(BrowserCase):
    def rack(self, role: str = "owner") -> None:
        self.sign_in(role)
        self.page.goto(f"{self.live_server_url}/rack")
        expect(self.page.get_by_role("heading", name="Rack", exact=True)).to_be_visible()

    def test_an_empty_rack_is_filled_by_typing(self) -> None:
        Movement.objects.all()._raw_delete("default")  # type: ignore[attr-defined]
        Item.objects.all()._raw_delete("default")  # type: ignore[attr-defined]
        self.rack()
        expect(self.page.get_by_role("heading", name="The rack is empty")).to_be_visible()
        self.page.get_by_role("button", name="Type in what there is").click()
        typed = self.page.get_by_label("A line for each")
        typed.fill("1084 1/4 x 1 1/2 x 48 x 2\nnothing like it")
        dialog = self.page.get_by_role("dialog")
        expect(dialog.get_by_text("2 of 1084, flat 38.1 x 6.35 x 1219.2 mm")).to_be_visible()
        expect(dialog.get_by_text("One line is not understood.")).to_be_visible()
        expect(dialog.get_by_role("button", name="into the rack")).to_be_disabled()
        typed.fill("1084 1/4 x 1 1/2 x 48 x 2\n15n20 2 x 40 x 1000")
        dialog.get_by_role("button", name="Put 2 into the rack").click()
        expect(self.page.get_by_text("2 items in the rack.")).to_be_visible()
        expect(self.page.get_by_role("button", name="flat 38.1 × 6.35 × 1219 mm")).to_be_visible()
        self.assertEqual({i.steel: there(i) for i in Item.objects.all()}, {"1084": 2, "15n20": 1})

    def test_found_taken_counted_and_offcuts_begun_with_and_kept(self) -> None:
        self.rack()
        self.page.get_by_role("searchbox").fill("15n20 1.6")
        what = self.page.get_by_role("region", name="What there is")
        expect(what.get_by_role("listitem")).to_have_count(1)
        what.get_by_role("button").click()
        panel = self.page.get_by_role("complementary", name="R11")
        panel.get_by_role("button", name="Take out").click()
        expect(self.page.get_by_text("Taken out of the rack: R11.")).to_be_visible()
        expect(panel).to_contain_text("0 bars")
        panel.get_by_role("button", name="Take out").click()
        expect(self.page.get_by_text("There is only 0 of R11 left")).to_be_visible()
        panel.get_by_role("region", name="Movements").get_by_role("button", name="put back").first.click()
        expect(panel).to_contain_text("1 bar")
        panel.get_by_role("radio", name="count").click()
        panel.get_by_label("There are").fill("3")
        panel.get_by_role("button", name="So it is").click()
        expect(panel).to_contain_text("3 bars")
        panel.get_by_label("Where it lies").fill("by the door")
        panel.get_by_label("Where it lies").press("Enter")
        expect(what).to_contain_text("by the door")
        self.page.reload()
        expect(self.page.get_by_role("complementary", name="R11")).to_contain_text("3 bars")
        self.walk("/rack")
        self.page.get_by_role("radio", name="offcuts").click()
        what = self.page.get_by_role("region", name="What there is")
        what.get_by_role("button", name="offcut of Withy knife").click()
        expect(self.page.get_by_alt_text("Pattern that")).to_be_visible()
        self.page.get_by_role("button", name="Begin a design with it").click()
        expect(self.page.get_by_role("heading", name="Begun with", exact=False)).to_be_attached()
        self.walk(self.address("Sedge knife, bold twist", "grind/edge"))
        self.page.get_by_role("button", name="Into the rack").click()
        expect(self.page.get_by_text("The tip end lies in the rack, with the pattern it carries.")).to_be_visible()
        kept = Item.objects.get(design__name="Sedge knife, bold twist", document__isnull=False)
        self.assertEqual(there(kept), 1)

    def test_a_file_with_a_mistake_is_told_by_line_and_column(self) -> None:
        self.rack()
        count = Item.objects.count()
        bad = b"id,steel,width,thickness,length\nX1,1084,40,6,900\nX2,cheese,40,6,900\n"
        self.page.get_by_label("CSV file of the rack").set_input_files({"name": "r.csv", "mimeType": "text/csv", "buffer": bad})
        expect(self.page.get_by_role("dialog")).to_contain_text("line 3.steel")
        self.page.keyboard.press("Escape")
        self.assertEqual(Item.objects.count(), count)
        good = b"id,steel,width,thickness,length\nX1,1084,40,6,900\n"
        self.page.get_by_label("CSV file of the rack").set_input_files({"name": "r.csv", "mimeType": "text/csv", "buffer": good})
        expect(self.page.get_by_text("Read: 1 new, 0 counted anew.")).to_be_visible()
        self.assertEqual(Item.objects.count(), count + 1)

    def test_a_helper_looks_and_changes_nothing(self) -> None:
        self.rack("helper")
        expect(self.page.get_by_role("button", name="Add bars")).to_be_disabled()
        expect(self.page.get_by_role("button", name="Take out")).to_be_disabled()
        expect(self.page.get_by_role("link", name="Save the rack as CSV")).to_be_visible()
