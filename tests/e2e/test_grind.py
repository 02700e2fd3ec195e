"""The Grind place and the blade's own panel, as a smith would use them."""

import re
from io import BytesIO

from PIL import Image, ImageDraw
from playwright.sync_api import expect

from tests.e2e.base import BrowserCase

OFF = "Osier peeler, core off centre"
LEVEL = "Osier peeler, well centred"
RIGHT = re.compile(r"^Right at [\d.]+ mm$")


class GrindTests(BrowserCase):
    def grind(self, name: str, tab: str = "line") -> None:
        self.open(name, f"grind/{tab}")

    def tab(self, name: str) -> None:
        self.page.get_by_role("tab", name=name, exact=True).click()

    def chart(self) -> str:
        return self.page.locator("svg[role=img] path[stroke='var(--accent)']").last.get_attribute("d") or ""

    def test_a_slider_moves_the_line_and_the_grade(self) -> None:
        self.grind(LEVEL)
        grade = self.page.get_by_role("region", name="Grade", exact=True)
        expect(grade).to_contain_text("First grade")
        before = self.page.get_by_role("img", name="Core line on the right face").locator("path").last.get_attribute("d")
        self.page.get_by_label("Core off centre, slider").fill("3")
        expect(grade).to_contain_text("Second grade")
        expect(grade).to_contain_text("At risk")
        expect(self.page.get_by_role("img", name="Core line on the right face").locator("path").last).not_to_have_attribute(
            "d", before or ""
        )
        self.page.get_by_role("button", name="All true again").click()
        expect(grade).to_contain_text("First grade")
        self.field("Core off centre").fill("-3")
        self.field("Core off centre").press("Enter")
        expect(grade).to_contain_text("Second grade")
        expect(self.page.get_by_label("Core off centre, slider")).to_have_value("-3")
        self.page.get_by_role("button", name="All true again").click()
        self.page.get_by_role("button", name="Undo (Z)").click()
        expect(grade).to_contain_text("Second grade")
        self.saved()
        self.page.reload()
        expect(grade).to_contain_text("Second grade")
        face = self.page.get_by_alt_text("Right face of the blade as")
        box = face.bounding_box()
        assert box
        caption = self.page.locator("figcaption", has_text="from the heel, seen from the heel")
        self.page.mouse.move(box["x"] + 0.3 * box["width"], box["y"] + 20)
        expect(caption).to_be_visible()
        first = caption.inner_text()
        self.page.mouse.move(box["x"] + 0.8 * box["width"], box["y"] + 20)
        expect(caption).not_to_have_text(first)

    def test_both_schools_and_own_numbers(self) -> None:
        self.grind(LEVEL)
        self.page.get_by_role("button", name="what is wanted of the line").click()
        self.page.get_by_role("radio", name="boldly").click()
        expect(self.page.get_by_role("region", name="Grade", exact=True)).to_contain_text("under the band")
        low = self.field("Line not under")
        low.fill("3")
        low.press("Enter")
        high = self.field("Line not over")
        high.fill('3/4"')
        high.press("Enter")
        expect(self.page.get_by_role("region", name="Grade", exact=True)).to_contain_text("First grade")
        low.fill("up there")
        low.press("Enter")
        expect(self.page.get_by_text("is not a length").or_(self.page.get_by_text("up there")).first).to_be_visible()
        slider = self.page.get_by_label("Twist, slider")
        slider.focus()
        for _ in range(8):
            self.page.keyboard.press("ArrowRight")
        expect(self.page.get_by_role("region", name="Grade", exact=True)).to_contain_text(re.compile("against left in the mean"))
        self.page.keyboard.press("Escape")
        self.page.get_by_role("tab", name="Tolerances").focus()
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("button", name="Work out 10 000 blades")).to_be_visible()

    def test_the_study_runs_is_stopped_and_seen_through(self) -> None:
        self.grind(LEVEL, "tolerances")
        start = self.page.get_by_role("button", name="Work out 10 000 blades")
        start.click()
        self.page.get_by_role("button", name="Stop").click()
        expect(start).to_be_visible()
        expect(self.page.get_by_role("region", name="What the study says")).to_have_count(0)
        start.click()
        expect(self.page.get_by_role("region", name="What the study says")).to_contain_text("would be of first grade")
        expect(self.page.get_by_role("region", name="What the study says")).to_contain_text("What parts left from right")
        dip = self.field("Dip and bow")
        dip.fill("0")
        dip.press("Enter")
        expect(self.page.get_by_text("The design has changed since")).to_be_visible()

    def test_readings_lead_to_a_correction_that_is_taken_over_and_undone(self) -> None:
        self.grind(OFF, "etch")
        steered = self.page.get_by_role("region", name="What the test etch says")
        expect(steered).to_contain_text("to the right of the middle")
        expect(steered).to_contain_text("Grind it, etch again, read again")
        before = self.face()
        self.page.get_by_role("radio", name="ground so").click()
        expect(self.page.get_by_alt_text("Right face of the blade as")).not_to_have_attribute("src", before)
        self.page.get_by_role("radio", name="as designed").click()
        self.page.get_by_role("button", name="Take the grinding over").click()
        self.tab("Core line")
        expect(self.page.get_by_role("region", name="Grade", exact=True)).to_contain_text("First grade")
        self.page.get_by_role("button", name="Undo (Z)").click()
        expect(self.page.get_by_role("region", name="Grade", exact=True)).to_contain_text("Second grade")

    def test_readings_are_of_the_faces_they_were_read_on(self) -> None:
        """A grind changed by hand: the old heights neither steer nor are lost, whichever way the smith decides."""
        self.grind(OFF, "etch")
        read = self.page.get_by_role("region", name="Readings", exact=True).get_by_label(RIGHT)
        expect(read).to_have_count(6)
        expect(self.page.get_by_role("region", name="What the test etch says")).to_be_visible()
        over = self.page.get_by_text("They say nothing of faces that were ground")
        expect(over).to_have_count(0)
        self.page.get_by_role("link", name="Design", exact=True).click()
        self.bar("blade").click()
        self.page.get_by_role("radio", name="Grind", exact=True).click()
        edge = self.field("Edge thickness").first
        edge.fill("0.3")
        edge.press("Enter")
        self.page.get_by_role("link", name="Grind", exact=True).click()
        self.tab("Test etch")
        expect(over).to_be_visible()
        expect(self.page.get_by_role("region", name="What the test etch says")).to_have_count(0)
        self.page.get_by_role("button", name="Only the plan changed: they hold").click()
        expect(over).to_have_count(0)
        expect(self.page.get_by_role("region", name="What the test etch says")).to_be_visible()
        self.page.get_by_role("button", name="Undo (Z)").click()
        self.page.get_by_role("button", name="It was ground: a new round").click()
        expect(over).to_have_count(0)
        # the stations wait, empty; what was read is kept as a round
        expect(read).to_have_count(6)
        expect(read.first).to_have_value("")
        expect(self.page.get_by_text("etch them again and read them afresh")).to_be_visible()
        self.saved()

    def test_readings_are_entered_by_hand(self) -> None:
        self.grind(LEVEL, "etch")
        expect(self.page.get_by_text("A photo is never needed")).to_be_visible()
        for height in ("6", "6.4"):
            self.page.get_by_role("button", name="Add", exact=True).click()
            cell = self.page.get_by_role("region", name="Readings", exact=True).get_by_label(RIGHT).nth(0 if height == "6" else -1)
            cell.fill(height)
            cell.press("Enter")
        expect(self.page.get_by_role("region", name="Readings", exact=True).get_by_label(RIGHT)).to_have_count(2)
        expect(self.page.get_by_role("region", name="What the test etch says")).to_be_visible()
        cell = self.page.get_by_role("region", name="Readings", exact=True).get_by_label(RIGHT).first
        cell.fill("400")
        cell.press("Enter")
        expect(self.page.get_by_text("is above the spine")).to_be_visible()
        self.page.get_by_role("button", name="Undo (Z)").click()
        expect(self.page.get_by_role("region", name="What the test etch says")).to_be_visible()
        self.page.get_by_role("button", name=re.compile("no core seen")).first.click()
        expect(self.page.get_by_role("button", name=re.compile("no core$")).first).to_be_visible()

    def photo(self) -> bytes:
        """A made-up photograph of a slab 152 x 30 mm at 5 px a mm, its core line 8 mm up."""
        picture = Image.new("RGB", (900, 300), "#777")
        draw = ImageDraw.Draw(picture)
        draw.polygon([(50, 250), (50, 100), (810, 160)], fill="#bbb")
        draw.line([(50, 210), (700, 210)], fill="#222", width=2)
        out = BytesIO()
        picture.save(out, "PNG")
        return out.getvalue()

    def test_heights_are_picked_on_a_photo(self) -> None:
        self.grind(LEVEL, "etch")
        self.page.get_by_role("button", name="Pick on a photo").click()
        self.page.get_by_label("Choose a photograph").set_input_files(
            {"name": "blade.png", "mimeType": "image/png", "buffer": self.photo()}
        )
        shown = self.page.get_by_role("button", name=re.compile("^Photo: mark"))
        expect(shown).to_be_visible()
        for label, value in (("First station", "10"), ("Second station", "90")):
            self.field(label).fill(value)
            self.field(label).press("Enter")
        box = shown.bounding_box()
        assert box
        scale = box["width"] / 900

        def click(x: float, y: float) -> None:
            """A place on the blade, mm; 5 px a mm, the heel's edge at (50, 250)."""
            self.page.mouse.click(box["x"] + (50 + 5 * x) * scale, box["y"] + (250 - 5 * y) * scale)

        for step, (x, y) in enumerate(((10, 0), (10, 30), (90, 0), (90, 28.5))):
            expect(self.page.get_by_role("dialog").get_by_role("status")).to_contain_text(f"{step + 1}.")
            click(x, y)
        expect(self.page.get_by_role("dialog").get_by_role("status")).to_contain_text("Now click along the core line")
        for x in (20, 60, 100):
            click(x, 8)
            expect(self.page.get_by_role("button", name=re.compile(r"Take \d"))).to_be_enabled()
        self.page.get_by_role("button", name="Take 3 heights").click()
        rows = self.page.get_by_role("region", name="Readings", exact=True).get_by_label(RIGHT)
        expect(rows).to_have_count(3)
        for i in range(3):
            self.assertAlmostEqual(float(rows.nth(i).input_value()), 8.0, delta=0.8)

    def test_belts_weight_offcuts_and_a_pattern_without_a_core(self) -> None:
        self.grind(LEVEL, "bevels")
        plan = self.page.get_by_role("region", name="Bevel plan, both sides")
        expect(plan).to_contain_text("P36")
        before = plan.inner_text()
        belt = self.field("P60 takes")
        belt.fill("0.3")
        belt.press("Enter")
        expect(plan).not_to_have_text(before)
        self.page.get_by_role("button", name="Back to the usual figures").click()
        expect(belt).to_have_value("0.14")
        self.tab("Edge and weight")
        weights = self.page.get_by_role("region", name="Weight and balance")
        expect(weights).to_contain_text("before the heel")
        self.page.get_by_role("button", name="Reckon with a handle").click()
        expect(weights).to_contain_text("Balances with its handle")
        self.page.get_by_role("radio", name="included angle").click()
        expect(self.page.get_by_role("img", name="angle along the blade")).to_be_visible()
        expect(self.page.get_by_text("tip end")).to_be_visible()
        self.page.get_by_role("button", name="Keep as a bar").first.click()
        expect(self.page.get_by_text("lies on the bench as a bar of its own")).to_be_visible()
        self.page.get_by_role("link", name="Bench", exact=True).click()
        expect(self.page.get_by_role("link", name=f"{LEVEL}: tip end", exact=True)).to_be_visible()
        self.walk(self.address("Sedge knife, bold twist", "grind/line"))
        expect(self.page.get_by_text("There is no core line on this blade.")).to_be_visible()
        self.tab("Bevel plan")
        expect(self.page.get_by_text("P36", exact=True)).to_be_visible()


class PanelTests(BrowserCase):
    def blade(self, name: str, part: str) -> None:
        self.open(name)
        self.bar("blade").click()
        self.page.get_by_role("radio", name=part, exact=True).click()

    def test_forged_to_shape_every_grind_and_a_chisel(self) -> None:
        self.blade(LEVEL, "Forge")
        self.page.get_by_role("radio", name="forged", exact=True).click()
        expect(self.page.get_by_text("The steel is drawn to").last).to_be_visible()
        self.page.get_by_role("radio", name="on the spine side").click()
        expect(self.page.get_by_text("The steel is drawn to")).to_have_count(0)
        expect(self.page.get_by_text("follow the belly")).to_be_visible()
        self.page.get_by_role("radio", name="cut out").click()
        self.saved()
        self.page.get_by_role("radio", name="Grind", exact=True).click()
        for kind in ("Convex", "Flat, convex at the edge", "Hollow", "Flat"):
            self.page.get_by_role("button", name=re.compile("^Grind: ")).click()
            self.page.get_by_role("option", name=re.compile(f"^{kind}(?!,)" if kind == "Flat" else kind)).first.click()
            expect(self.page.get_by_text("Cannot be done")).to_have_count(0)
        self.page.get_by_role("radio", name="right only").click()
        expect(self.page.get_by_text("Cannot be done")).to_have_count(0)
        self.page.get_by_role("radio", name="both sides").click()
        self.page.get_by_role("radio", name="Outline", exact=True).click()

        def shape(name: str) -> None:
            self.page.get_by_role("button", name=re.compile("^Shape: ")).click()
            self.page.get_by_role("option", name=re.compile(f"^{name}")).click()

        expect(self.field("Length")).to_have_value("152")
        shape("Chisel, plane iron")
        expect(self.field("Width of the edge")).to_have_value("30")
        expect(self.field("Up the tool")).to_have_value("152")
        expect(self.field("Point takes")).to_have_count(0)
        self.settled()
        shape("Drop point")
        expect(self.field("Length")).to_have_value("152")
        expect(self.field("Height at the heel")).to_have_value("30")
        self.saved()

    def test_the_outline_drawn_by_hand_out_and_in_its_rims_and_sections(self) -> None:
        self.blade(LEVEL, "Outline")
        self.page.get_by_role("tab", name="Outline").click()
        self.page.get_by_role("button", name="Move its points by hand").click()
        value = self.page.get_by_label(re.compile("^Edge at "))
        expect(value).to_be_visible()
        point = self.page.locator("svg[role=img] circle").nth(4)
        box = point.bounding_box()
        assert box
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x, y + 8, steps=3)
        self.page.mouse.up()
        expect(value).not_to_have_value("0")
        value.fill("-1.5")
        value.press("Enter")
        expect(value).to_have_value("-1.5")
        self.saved()
        self.page.get_by_role("button", name="A built-in shape").click()
        expect(self.page.get_by_role("button", name=re.compile("^Shape: "))).to_be_visible()
        with self.page.expect_download() as held:
            self.page.get_by_role("button", name="Save SVG").click()
        path = held.value.path()
        self.page.get_by_role("button", name="Read a drawing…").click()
        self.page.get_by_role("button", name="Read it").click()
        expect(self.page.get_by_text("Choose an SVG or DXF file first.")).to_be_visible()
        self.page.get_by_label("Drawing of the outline").set_input_files(
            {"name": "bad.svg", "mimeType": "image/svg+xml", "buffer": b"<svg></svg>"}
        )
        self.page.get_by_role("button", name="Read it").click()
        expect(self.page.get_by_text("no closed outline")).to_be_visible()
        self.page.get_by_label("Drawing of the outline").set_input_files(
            {"name": "blade.svg", "mimeType": "image/svg+xml", "buffer": path.read_bytes()}
        )
        self.page.get_by_role("button", name="Read it").click()
        expect(self.page.get_by_text("Outline read: 152 × 30 mm")).to_be_visible()
        expect(self.page.get_by_text("Drawn point by point")).to_be_visible()
        self.page.get_by_role("tab", name="Rims").click()
        expect(self.page.get_by_alt_text(re.compile("square on its spine"))).to_be_visible()
        self.page.get_by_role("tab", name="Section").click()
        self.page.get_by_role("radio", name="all along").click()
        expect(self.page.get_by_role("tabpanel").locator("figure")).to_have_count(10)
