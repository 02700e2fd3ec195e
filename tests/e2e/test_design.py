"""Designing in the browser: seeing, changing, undoing, keeping."""

import json
import tempfile
from pathlib import Path

from django.contrib.auth.models import User
from playwright.sync_api import expect

from tests.core.samples import recipe, solid, stack
from tests.e2e.base import BrowserCase
from varistrat.core.design.document import read_document
from varistrat.core.starters import STARTERS
from varistrat.demo.shop import DESIGNS as DEMO
from varistrat.designs.models import Design
from varistrat.designs.services import keep
from varistrat.shop.services.people import member_of


class SeeingTests(BrowserCase):
    def test_the_blade_the_bar_and_the_ledger_are_in_sight_without_scrolling(self) -> None:
        self.open("Sedge knife, bold twist")
        for name in ("Left face of the blade as", "Right face of the blade as"):
            box = self.page.get_by_role("img", name=name).bounding_box()
            assert box
            self.assertGreaterEqual(box["width"], 640, name)
        for place in (
            self.page.get_by_label("What it comes to"),
            self.page.get_by_role("img", name="Face of the bar ground"),
            self.page.get_by_role("img", name="End grain", exact=True),
            self.page.get_by_role("heading", name="7. Grind"),
        ):
            expect(place).to_be_in_viewport()
        self.assertEqual(self.page.evaluate("document.documentElement.scrollHeight"), 800)
        self.page.get_by_role("button", name="Enlarge the blade").click()
        self.settled()
        box = self.page.get_by_alt_text("Right face of the blade as").bounding_box()
        assert box
        self.assertGreater(box["width"], 850)

    def test_grinding_into_the_bar_and_findings_beside_their_step(self) -> None:
        self.open("Sedge knife, bold twist")
        self.bar(3).click()
        self.settled()
        before = self.screen().drawn(self.page.get_by_role("img", name="Face of the bar ground"))
        handle = self.page.get_by_role("slider", name="Ground off the face")
        box = handle.bounding_box()
        assert box
        self.page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 2)
        self.page.mouse.down()
        self.page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] * 0.4, steps=6)
        self.page.mouse.up()
        self.assertAlmostEqual(float(handle.get_attribute("aria-valuenow") or 0), 0.4 * 20.11, delta=0.4)
        expect(self.page.get_by_role("img", name="Face of the bar ground")).not_to_have_attribute("src", before or "")
        advice = self.page.get_by_role("complementary")
        expect(advice).to_contain_text("One turn in")
        self.page.get_by_label("Turns", exact=True).fill("40")
        self.page.keyboard.press("Enter")
        expect(advice).to_contain_text("The skin will tear.")
        expect(advice).to_contain_text("Will fail")

    def test_the_core_line_is_reported_along_both_sides(self) -> None:
        self.open("Basketmaker's skew")
        self.bar("blade").click()
        rows = self.page.get_by_role("complementary").get_by_role("table", name="Core line").locator("tbody tr")
        expect(rows).to_have_count(8)
        # ground alike and well centred: left and right agree
        for row in rows.all():
            _, left, right = (cell.inner_text() for cell in row.locator("th, td").all())
            self.assertEqual(left, right)
            self.assertGreater(float(left), 0.5)


class ChangingTests(BrowserCase):
    def test_a_change_shows_is_saved_and_undone_across_a_reload(self) -> None:
        self.open("Sedge knife, bold twist")
        self.bar(3).click()
        turns = self.page.get_by_label("Turns", exact=True)
        with self.face_changes():
            turns.fill("6")
            turns.press("Enter")
        self.saved()
        self.page.reload()
        self.settled()
        self.bar(3).click()
        expect(turns).to_have_value("6")
        self.page.get_by_role("button", name="Undo (Z)").click()
        expect(turns).to_have_value("13")
        self.saved()
        self.page.reload()
        self.settled()
        self.bar(3).click()
        self.page.get_by_role("button", name="Redo (Shift Z)").click()
        expect(turns).to_have_value("6")
        self.saved()
        design = Design.objects.get(name="Sedge knife, bold twist")
        self.assertEqual(design.revisions.get(number=design.current).document["recipe"]["bar"]["steps"][3]["turns"], 6)
        self.assertGreaterEqual(design.current, 4)
        self.page.get_by_role("button", name="Undo (Z)").click()
        slider = self.page.get_by_label("Turns, slider")
        box = slider.bounding_box()
        assert box
        with self.face_changes():
            self.page.mouse.move(box["x"] + box["width"] * 0.43, box["y"] + box["height"] / 2)
            self.page.mouse.down()
            self.page.mouse.move(box["x"] + box["width"] * 0.6, box["y"] + box["height"] / 2, steps=6)
            # a hand that stops to look: still one drag
            self.screen().quiet()
            self.page.mouse.move(box["x"] + box["width"] * 0.8, box["y"] + box["height"] / 2, steps=6)
            self.page.mouse.up()
        self.page.get_by_role("button", name="Undo (Z)").click()
        expect(turns).to_have_value("13")

    def test_what_cannot_be_read_or_done_is_said_at_the_field_and_nothing_is_lost(self) -> None:
        self.open("Withy knife")
        self.bar(0).click()
        thickness = self.page.get_by_label("Thickness after", exact=True)
        thickness.fill("1200 thou")
        thickness.press("Enter")
        expect(thickness).to_have_value("30.5")
        thickness.fill("a thumb's width")
        thickness.press("Enter")
        expect(self.page.get_by_role("alert")).to_contain_text("is not a length")
        thickness.press("Escape")
        expect(thickness).to_have_value("30.5")
        self.screen().units(length="inch, 1/4")
        # 1200 thou is no whole number of 64ths: told as it is
        expect(thickness).to_have_value("1.2")
        expect(self.page.get_by_label("What it comes to")).to_contain_text("in")
        self.screen().units(length="mm")
        self.bar(2).click()
        grind = self.page.get_by_label("Ground off the meeting face", exact=True)
        picture = self.face()
        grind.fill("-3")
        grind.press("Enter")
        expect(self.page.get_by_role("alert").first).to_contain_text("out of range")
        expect(self.page.get_by_role("status", name="Saved or waiting")).to_contain_text("not saved")
        self.assertEqual(self.face(), picture, "the last good picture stays")
        grind.fill("50")
        grind.press("Enter")
        expect(self.page.get_by_role("alert").first).to_contain_text("leaves nothing")
        grind.fill("0.4")
        grind.press("Enter")
        self.settled()
        expect(self.page.get_by_role("alert")).to_have_count(0)
        self.saved()

    def test_layers_are_added_and_built_the_blade_taken_out_and_put_back(self) -> None:
        self.open("Basketmaker's skew")
        self.bar("start").click()
        facts = self.page.get_by_label("What it comes to")
        expect(facts).to_contain_text("Core line, right")
        with self.face_changes():
            self.page.get_by_role("button", name="Layer", exact=True).click()
        expect(self.page.get_by_label("Thickness of layer 4")).to_be_visible()
        expect(facts).not_to_contain_text("Core line")
        self.page.get_by_role("button", name="Alternate…").click()
        self.page.get_by_label("Layers in all").fill("9")
        self.page.get_by_role("button", name="Build the pile").click()
        expect(self.page.get_by_label("Thickness of layer 9")).to_be_visible()
        self.saved()
        self.walk(self.address("Withy knife"))
        self.settled()
        self.bar("blade").click()
        with self.face_changes():
            self.page.get_by_role("button", name="Shape").click()
            self.page.get_by_role("option", name="Leaf").click()
        length = self.page.get_by_label("Length", exact=True)
        length.fill("900")
        length.press("Enter")
        expect(self.page.get_by_role("complementary")).to_contain_text("runs off the far end")
        self.page.get_by_role("button", name="Take it out").click()
        expect(self.page.get_by_text("No blade is cut from it yet")).to_be_visible()
        self.page.get_by_role("button", name="Cut a blade from the bar").click()
        self.settled()


class KeyboardTests(BrowserCase):
    def test_everything_about_steps_by_keyboard_alone(self) -> None:
        self.open("Sedge knife, bold twist")
        key = self.page.keyboard.press
        self.assertEqual(self.chosen(), "6")
        self.bar(6).focus()
        key("ArrowLeft")
        self.assertEqual(self.chosen(), "5")
        key("c")
        expect(self.bar(7)).to_be_visible()
        key("o")
        expect(self.bar(5)).to_contain_text("switched off")
        key("Shift+ArrowLeft")
        expect(self.bar(4)).to_contain_text("switched off")
        key("Delete")
        expect(self.page.get_by_text("Draw out removed.")).to_be_visible()
        expect(self.bar(7)).to_have_count(0)
        key("i")
        expect(self.page.get_by_role("menuitem").first).to_be_visible()
        key("ArrowDown")
        key("Enter")
        expect(self.bar(7)).to_be_visible()
        for _ in range(5):
            key("z")
        expect(self.bar(7)).to_have_count(0)
        expect(self.bar(5)).to_contain_text("Draw out")
        for leave in ("b", "Escape"):
            key("b")
            expect(self.page.get_by_role("button", name="Back to the work")).to_be_visible()
            key(leave)
            expect(self.page.get_by_role("button", name="Back to the work")).to_have_count(0)
        key("?")
        expect(self.page.get_by_role("heading", name="How it works")).to_be_visible()
        key("Escape")
        self.saved()

    def test_a_portrait_is_dragged_and_a_removal_undone(self) -> None:
        self.open("Thatcher's eave knife")
        self.bar("start").click()
        grip, to = (self.page.get_by_role("button", name=n).bounding_box() for n in ("Move Draw out, step 2", "Move Weld, step 1"))
        assert grip and to
        self.page.mouse.move(grip["x"] + 15, grip["y"] + 20)
        self.page.mouse.down()
        self.page.mouse.move(to["x"] - 30, to["y"] + 20, steps=15)
        expect(self.page.get_by_role("status").filter(has_text="Draw out would become step 1")).to_be_attached()
        self.page.mouse.up()
        expect(self.bar(0)).to_contain_text("Draw out")
        self.page.get_by_role("button", name="Remove this step").click()
        self.page.get_by_role("status").get_by_role("button", name="Undo").click()
        expect(self.bar(0)).to_contain_text("Draw out")

    def test_a_portrait_is_lifted_and_moved_by_its_grip_each_step_told(self) -> None:
        self.open("Thatcher's eave knife")
        self.page.get_by_role("button", name="Move Turn, step 3").focus()
        for key, told in (
            ("Space", "Turn would become step 3"),
            ("ArrowLeft", "Turn would become step 2"),
            ("Space", "Turn is now step 2"),
        ):
            self.page.keyboard.press(key)
            expect(self.page.get_by_role("status").filter(has_text=told)).to_be_attached()
        expect(self.bar(1)).to_contain_text("Turn")


class KeepingTests(BrowserCase):
    def test_two_pages_keep_both_versions_and_an_earlier_save_comes_back(self) -> None:
        self.open("Sedge knife, bold twist")
        other = self.new_page()
        other.goto(self.page.url)
        self.settled(other)
        for page, turns in ((other, "8"), (self.page, "4")):
            self.bar(3, page).click()
            page.get_by_label("Turns", exact=True).fill(turns)
            page.get_by_label("Turns", exact=True).press("Enter")
            if page is other:
                self.saved(other)
        expect(self.page.get_by_text("Both are kept")).to_be_visible()
        self.page.get_by_role("button", name="Go on with mine").click()
        self.saved()
        design = Design.objects.get(name="Sedge knife, bold twist")
        turns_kept = [r.document["recipe"]["bar"]["steps"][3]["turns"] for r in design.revisions.all()]
        self.assertEqual(turns_kept, [4, 4, 8, 13])
        self.page.get_by_role("button", name="More about this design").click()
        self.page.get_by_role("menuitem", name="Earlier saves").click()
        self.page.get_by_role("button", name="Save 1").click()
        expect(self.page.get_by_alt_text("Right face of save 1")).to_be_visible()
        self.page.get_by_role("button", name="Bring this back").click()
        expect(self.page.get_by_label("Turns", exact=True)).to_have_value("13")

    def test_a_vanished_server_and_a_page_that_goes_lose_nothing(self) -> None:
        self.open("Sedge knife, bold twist")
        self.bar(3).click()
        expect(self.field("Turns")).to_be_visible()
        self.context.set_offline(True)
        self.page.get_by_label("Turns", exact=True).fill("7")
        self.page.get_by_label("Turns", exact=True).press("Enter")
        expect(self.page.get_by_text("The server cannot be reached.")).to_be_visible()
        self.context.set_offline(False)
        self.saved()
        self.settled()
        design = Design.objects.get(name="Sedge knife, bold twist")
        self.assertEqual(design.revisions.get(number=design.current).document["recipe"]["bar"]["steps"][3]["turns"], 7)
        self.page.route("**/api/designs/*", lambda r: r.abort() if r.request.method == "PUT" else r.continue_())
        self.page.get_by_label("Turns", exact=True).fill("9")
        self.page.get_by_label("Turns", exact=True).press("Enter")
        expect(self.page.get_by_role("status", name="Saved or waiting")).to_have_text("kept here")
        self.page.unroute("**/api/designs/*")
        self.page.reload()
        self.settled()
        self.bar(3).click()
        expect(self.page.get_by_label("Turns", exact=True)).to_have_value("9")
        self.saved()


class BenchTests(BrowserCase):
    def test_first_use_begins_with_a_sample(self) -> None:
        User.objects.create_user("newcomer", password="fresh-from-the-coals-3")
        self.page.goto(self.live_server_url)
        self.page.get_by_label("Name").fill("newcomer")
        self.page.get_by_label("Password").fill("wrong")
        self.page.get_by_role("button", name="Sign in", exact=True).click()
        expect(self.page.get_by_text("do not go together")).to_be_visible()
        self.page.get_by_label("Password").fill("fresh-from-the-coals-3")
        self.page.get_by_role("button", name="Sign in", exact=True).click()
        expect(self.page.get_by_role("heading", name="Your bench is empty")).to_be_visible()
        self.page.get_by_role("button", name="Bold twist").click()
        self.settled()
        self.page.get_by_role("link", name="Bench", exact=True).click()
        expect(self.page.get_by_role("link", name="Bold twist", exact=True)).to_be_visible()

    def test_copied_removed_restored_and_found_among_two_hundred(self) -> None:
        self.enter()
        self.page.get_by_role("button", name="Make a copy of Withy knife").click()
        copy = self.page.get_by_role("link", name="Withy knife (copy)", exact=True)
        expect(copy).to_be_visible()
        self.page.get_by_role("button", name="Remove Withy knife (copy)").click()
        expect(copy).to_have_count(0)
        self.page.get_by_role("button", name="Undo").click()
        expect(copy).to_be_visible()
        user = member_of(User.objects.get(username="quillet-dyke"))
        document = read_document(STARTERS["blank"].document())
        for i in range(200):
            keep.create_design(actor=user, document=document, name=f"Bar {i}")
        self.page.reload()
        expect(self.page.get_by_role("listitem")).to_have_count(201 + len(DEMO))
        self.page.get_by_label("Find a design").fill("Bar 19")
        # every word of it, in any order: a design that tells of a bar and of 19 is found too
        expect(self.page.get_by_role("listitem").filter(has_text="Bar 18")).to_have_count(0)
        expect(self.page.get_by_role("listitem").filter(has_text="Bar 19")).to_have_count(11)

    def test_recipe_files_in_and_out(self) -> None:
        self.enter()
        with tempfile.TemporaryDirectory() as folder:
            bad, good = Path(folder) / "bad.json", Path(folder) / "good.json"
            bad.write_text(json.dumps(recipe(solid(), {"kind": "twist", "turnz": 3})))
            good.write_text(json.dumps(recipe(stack(("1084", 3), ("15n20", 3), width=40, length=220)) | {"name": "From another hand"}))
            chooser = self.page.get_by_label("Design, recipe or blade file", exact=True)
            chooser.set_input_files(bad)
            expect(self.page.get_by_role("dialog")).to_contain_text("bar.steps[0].turnz: unknown field")
            self.page.keyboard.press("Escape")
            chooser.set_input_files(good)
            self.settled()
        expect(self.page.get_by_label("Name of the design")).to_have_value("From another hand")
        self.page.get_by_role("button", name="More about this design").click()
        with self.page.expect_download() as download:
            self.page.get_by_role("menuitem", name="Save the recipe file").click()
        self.assertEqual(download.value.suggested_filename, "from-another-hand.recipe.json")

    def test_a_print_is_ordered_watched_and_stopped(self) -> None:
        self.open("Withy knife")
        self.page.get_by_role("button", name="More about this design").click()
        self.page.get_by_role("menuitem", name="Print-size face").click()
        self.page.get_by_role("button", name="Make the picture").click()
        expect(self.page.get_by_role("progressbar")).to_be_visible()
        self.page.get_by_role("button", name="Stop").click()
        expect(self.page.get_by_text("Stopped.")).to_be_visible()
