"""Joined bars, canisters, ways to look, sums, what-if sheets, side by side: in the real browser."""

import re

from playwright.sync_api import Locator, expect

from tests.e2e.base import BrowserCase
from tests.waiting import until
from varistrat.core.starters import STARTERS
from varistrat.designs.models import Design
from varistrat.jobs.models import Job
from varistrat.jobs.services.runner import run_next

HERRINGBONE = "Punt builder's spoke knife"


class JoinedTests(BrowserCase):
    def test_open_a_bar_change_it_and_go_back(self) -> None:
        self.open(HERRINGBONE)
        self.screen().child(1).click()
        expect(self.page.get_by_role("button", name="Back to the")).to_be_visible()
        self.bar(3).click()
        expect(self.field("Turns")).to_have_value("17")
        with self.face_changes():
            self.field("Turns").fill("9")
            self.field("Turns").press("Enter")
        self.saved()
        document = Design.objects.get(name=HERRINGBONE).revisions.order_by("-number")[0].document
        turns = [b["steps"][3]["turns"] for b in document["recipe"]["bar"]["start"]["bars"]]
        self.assertEqual(turns, [17, 9, 17])
        self.page.get_by_role("button", name="Back to the").click()
        expect(self.page.get_by_role("button", name="Begins as")).to_contain_text("Joined bars")
        self.page.get_by_role("button", name="Undo (Z)").click()
        self.screen().child(1).click()
        self.bar(3).click()
        expect(self.field("Turns")).to_have_value("17")
        self.page.get_by_role("heading", name="4. Twist").click()
        self.page.keyboard.press("u")
        expect(self.screen().child(1)).to_be_visible()
        self.screen().child(2).click()
        self.bar(5).click()
        top = self.field("Off the top")
        top.fill("40")
        top.press("Enter")
        expect(self.page.get_by_role("alert").first).to_contain_text("grinds away all")
        self.page.get_by_role("button", name="Back to the").click()
        expect(self.screen().child(2)).to_contain_text("cannot be done")
        expect(self.screen().child(0)).not_to_contain_text("cannot be done")
        self.page.get_by_role("button", name="Undo (Z)").click()
        expect(self.screen().child(2)).not_to_contain_text("cannot be done")

    def test_a_bar_is_joined_with_its_opposite_copied_moved_and_taken_out(self) -> None:
        self.open("Sedge knife, bold twist")
        self.bar("start").click()
        self.page.get_by_role("button", name="Begins as").click()
        self.page.get_by_role("option", name="Joined bars").click()
        expect(self.screen().children()).to_have_count(2)
        expect(self.screen().child(1)).to_contain_text("left")
        self.page.get_by_role("button", name="Copy bar 1").click()
        expect(self.screen().children()).to_have_count(3)
        self.page.get_by_role("button", name="Make the opposite twist of bar 3").click()
        expect(self.screen().children()).to_have_count(4)
        self.page.get_by_label("Name of bar 1").fill("lowest")
        self.page.get_by_role("button", name="Bar 1 one up").click()
        expect(self.page.get_by_label("Name of bar 2")).to_have_value("lowest")
        self.page.get_by_role("button", name="Take bar 4 out").click()
        expect(self.screen().children()).to_have_count(3)
        self.page.get_by_role("button", name="Joined: side by side").click()
        self.page.get_by_role("option", name="scarf").click()
        expect(self.page.get_by_role("alert").first).to_contain_text("takes two bars")
        self.page.get_by_role("button", name="Undo (Z)").click()
        expect(self.page.get_by_role("alert")).to_have_count(0)
        self.saved()

    def test_cells_of_a_four_way_are_turned_by_hand(self) -> None:
        self.open("Marsh star")
        self.bar(4).click()
        cell = self.page.get_by_role("button", name="Row 1, column 1")
        expect(cell).to_have_attribute("aria-label", "Row 1, column 1: turned as cut; turn it by a quarter more")
        with self.face_changes():
            cell.click()
        expect(cell).to_have_attribute("aria-label", "Row 1, column 1: turned a quarter; turn it by a quarter more")
        self.page.get_by_role("button", name="More columns").click()
        expect(self.page.get_by_role("button", name="Row 2, column 3")).to_be_visible()

    def test_a_canister_takes_an_outline_and_refuses_a_broken_one(self) -> None:
        self.open("Eel rope")
        self.bar("start").click()
        first = self.page.get_by_role("group", name="Pieces 1")
        first.get_by_text("placed by hand").click()
        first.get_by_label("Shape").click()
        self.page.get_by_role("option", name="cut-out").click()
        chooser = first.locator("input[type=file]")
        chooser.set_input_files({"name": "bad.svg", "mimeType": "image/svg+xml", "buffer": b"<svg><!DOCTYPE a"})
        expect(first.get_by_role("alert").filter(has_text="bad.svg")).to_contain_text("document type")
        svg = (
            b'<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm" viewBox="0 0 9 9"><path d="M0 0 H9 V9 H6 V3 H3 V9 H0 '
            b'Z"/></svg>'
        )
        with self.face_changes():
            chooser.set_input_files({"name": "good.svg", "mimeType": "image/svg+xml", "buffer": svg})
        expect(first).to_contain_text("8 corners")
        expect(first.get_by_label("Piece 1, across")).to_have_value("0")
        expect(self.page.get_by_label("Piece 1, up").first).to_be_visible()


class LookTests(BrowserCase):
    def tab(self, name: str) -> None:
        self.page.get_by_role("tab", name=name).click()

    def test_a_bar_and_a_blade_from_every_side(self) -> None:
        self.open(HERRINGBONE)
        self.bar(1).click()
        self.tab("Section")
        shown = self.page.get_by_role("img", name="Section at")
        expect(shown).to_be_visible()
        before = self.screen().drawn(shown)
        self.page.get_by_label("Turned").fill("60")
        expect(shown).not_to_have_attribute("src", before)
        for name, ending in (("Save this section as SVG, in mm", ".svg"), ("Save this section as PNG, with its scale", ".png")):
            with self.page.expect_download() as kept:
                self.page.get_by_role("button", name=name).click()
            self.assertTrue(kept.value.suggested_filename.endswith(ending))
        self.tab("Window")
        window = self.page.get_by_role("img", name="with a window ground")
        expect(window).to_be_visible()
        before = self.screen().drawn(window)
        self.page.get_by_label("Deep").fill("0.5")
        expect(window).not_to_have_attribute("src", before)
        self.tab("Depths")
        expect(self.page.get_by_role("list", name="Twelve depths").get_by_role("img")).to_have_count(12)
        self.page.get_by_role("list", name="Twelve depths").get_by_role("button").nth(6).click()
        self.tab("Face")
        expect(self.page.get_by_role("slider", name="Ground off the face")).not_to_have_attribute("aria-valuenow", "0")
        self.page.get_by_role("button", name="Look larger").click()
        box = self.page.get_by_role("tabpanel").bounding_box()
        assert box
        self.assertGreater(box["height"], 700)
        self.page.get_by_role("button", name="Back to the work").click()
        self.settled()
        self.open("Skein shave, clad in twists")
        self.bar("blade").click()
        expect(self.page.get_by_role("img", name=re.compile("face ground .* further"))).to_be_visible()
        self.tab("Section")
        expect(self.page.get_by_role("img", name="The blade cut across")).to_be_visible()
        self.tab("Layers")
        expect(self.page.get_by_text("left face at the left").locator("..")).to_contain_text("layers in")
        expect(self.page.get_by_role("heading", name="On show")).to_be_visible()


class SolidTests(BrowserCase):
    solid = True

    def other_than(self, drawn: Locator, before: bytes) -> None:
        """It is drawn anew."""
        until(lambda: drawn.screenshot() != before, "the solid looks as before")

    def test_three_dimensions_with_a_cut(self) -> None:
        self.open(HERRINGBONE)
        self.bar(0).click()
        self.page.get_by_role("tab", name="3-D").click()
        solid = self.page.get_by_role("img", name="The solid in three dimensions")
        expect(solid).to_have_attribute("aria-busy", "false")
        whole = solid.screenshot()
        self.page.get_by_text("across", exact=True).click()
        self.other_than(solid, whole)
        solid.focus()
        before = solid.screenshot()
        self.page.keyboard.press("ArrowRight")
        self.other_than(solid, before)
        with self.page.expect_download() as kept:
            self.page.get_by_role("button", name="Save the solid as a GLB file").click()
        self.assertEqual(kept.value.suggested_filename, "bar.glb")
        self.bar("blade").click()
        self.page.get_by_role("tab", name="3-D").click()
        expect(solid).to_have_attribute("aria-busy", "false")


class StillTests(BrowserCase):
    def test_without_three_dimensions_a_still_picture(self) -> None:
        self.quiet_errors = (*self.quiet_errors, "THREE.")
        self.context.add_init_script("HTMLCanvasElement.prototype.getContext = () => null")
        self.open(HERRINGBONE)
        self.bar(0).click()
        self.page.get_by_role("tab", name="3-D").click()
        still = self.page.get_by_role("img", name="The bar seen from a corner")
        expect(still).to_be_visible()
        before = self.screen().drawn(still)
        self.page.get_by_label("Round", exact=False).first.fill("-40")
        expect(still).not_to_have_attribute("src", before)


class SumsTests(BrowserCase):
    def test_sums_are_turned_round_used_and_lead_to_a_wanted_count(self) -> None:
        self.open("Marsh star")
        self.bar(8).click()
        self.page.get_by_role("button", name="Work it out").click()
        square = self.page.get_by_role("region", name="How squat to forge the bar for a square motif")
        # 31 wide at 35 degrees: 31 sin 35
        expect(square.locator("output")).to_have_text("17.8 mm")
        square.get_by_role("button", name="Find this instead: Angle of the cut").click()
        height = square.get_by_role("textbox", name="Height of the bar")
        height.fill("18.6")
        height.press("Enter")
        expect(square.locator("output")).to_have_text("36.87 deg")
        with self.face_changes():
            square.get_by_role("button", name="Use 36.87 in the step").click()
        expect(self.page.get_by_label("Angle of the cut", exact=True).first).to_have_value("36.8699")
        height = square.get_by_role("textbox", name="Height of the bar")
        height.fill("300")
        height.press("Enter")
        expect(square.get_by_role("alert")).to_contain_text("fits the rest")
        self.open("Reedcutter's long knife")
        self.bar(2).click()
        self.page.get_by_role("button", name="Work it out").click()
        wanted = self.page.get_by_label("Layers wanted")
        wanted.fill("200")
        wanted.press("Enter")
        expect(self.page.get_by_text("in the pile, cut in").first).to_be_visible()


class WhatIfTests(BrowserCase):
    def test_a_sheet_is_drawn_a_picture_taken_over_and_another_stopped(self) -> None:
        self.open("Sedge knife, bold twist")
        self.page.keyboard.press("w")
        self.page.get_by_role("button", name="And another").click()
        expect(self.page.get_by_role("button", name="Draw 48 pictures")).to_be_visible()
        self.page.get_by_role("button", name="Leave out").click()
        self.page.get_by_label("Pictures", exact=True).fill("3")
        self.page.get_by_label("Pictures", exact=True).press("Enter")
        self.page.get_by_role("button", name="Draw 3 pictures").click()
        expect(self.page.get_by_label("Progress of the sheet")).to_be_visible()
        # there is no worker beside this server: its part is done here
        until(lambda: Job.objects.filter(state=Job.State.WAITING).exists(), "no sheet is ordered")
        run_next("short")
        cells = self.page.get_by_role("list", name="The sheet").get_by_role("button")
        expect(cells).to_have_count(3)
        with self.face_changes():
            cells.nth(2).click()
        expect(self.page.get_by_text("Taken over: 4 Twist: turns")).to_be_visible()
        self.bar(3).click()
        expect(self.page.get_by_label("Turns", exact=True)).not_to_have_value("13")
        self.page.get_by_role("button", name="Undo (Z)").click()
        expect(self.page.get_by_label("Turns", exact=True)).to_have_value("13")
        self.page.keyboard.press("w")
        self.page.get_by_role("button", name="Draw 12 pictures").click()
        self.page.get_by_role("button", name="Stop").click()
        expect(self.page.get_by_text("Stopped.")).to_be_visible()
        self.assertEqual(Job.objects.latest("id").state, "stopped")


class CompareTests(BrowserCase):
    def test_two_designs_at_one_scale_move_together(self) -> None:
        self.open("Rush knife, right hand")
        self.page.get_by_role("button", name="More about this design").click()
        self.page.get_by_role("menuitem", name="Beside another").click()
        both = self.page.get_by_role("img", name=" face of ")
        expect(both).to_have_count(2)
        self.screen().quiet()
        before = [box["width"] for box in (both.nth(i).bounding_box() for i in range(2)) if box]
        self.page.get_by_role("button", name="Closer").click()
        expect(self.page.get_by_role("status", name="Enlarged")).to_have_text("1.5×")
        self.screen().quiet()
        after = [box["width"] for box in (both.nth(i).bounding_box() for i in range(2)) if box]
        for a, b in zip(before, after, strict=True):
            self.assertAlmostEqual(b / a, 1.5, delta=0.02)
        self.page.get_by_label("Save").first.click()
        self.page.get_by_role("option", name="save 1").click()
        expect(both).to_have_count(2)
        self.assertIn("a=", self.page.url)


class ShopFiguresTests(BrowserCase):
    def test_the_shops_own_hand_is_kept_and_given_to_new_steps(self) -> None:
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/steels?show=numbers")
        hammer = self.page.get_by_role("listitem").filter(has_text="Hammer by hand")
        expect(hammer).to_contain_text("Indicative.")
        hammer.get_by_label("Amount").fill("0.11")
        hammer.get_by_label("Amount").press("Enter")
        expect(hammer).to_contain_text("Your shop's own.")
        self.walk(self.address("Withy knife"))
        self.settled()
        self.page.get_by_role("button", name="Put a step here, as step 2").click()
        self.page.get_by_role("menuitem", name="Draw out").click()
        expect(self.page.get_by_label("Amount", exact=True)).to_have_value("0.11")
        self.page.get_by_role("button", name="Press", exact=True).click()
        expect(self.page.get_by_label("Amount", exact=True)).to_have_value("0.12")
        self.page.goto(f"{self.live_server_url}/steels")
        self.page.get_by_text("Numbers of your shop").click()
        self.page.get_by_role("button", name="Back to usual").click()
        expect(hammer).to_contain_text("Indicative.")


class BeginTests(BrowserCase):
    def test_every_family_can_be_begun_and_is_shown(self) -> None:
        self.enter()
        self.page.get_by_role("button", name="New design").click()
        dialog = self.page.get_by_role("dialog")
        expect(dialog.get_by_role("listitem")).to_have_count(len(STARTERS))
        for name in ("Ladder", "Dimples", "Opposed twists", "Bias W", "Crushed W", "Feather", "Four-way mosaic", "Tiled mosaic"):
            expect(dialog.get_by_text(name, exact=True)).to_be_visible()
        first = dialog.get_by_role("listitem").first.locator("img")
        expect(first).to_have_js_property("complete", True)
        self.assertGreater(first.evaluate("e => e.naturalWidth"), 100)
        dialog.get_by_role("button", name="Plug").click()
        self.settled()
        expect(self.screen().children()).to_have_count(2)
        expect(self.screen().child(1)).to_contain_text("plug")
        self.walk(self.address("Four-way bar for ferrules"))
        expect(self.page.get_by_role("img", name="End grain of the finished bar")).to_be_visible()
        expect(self.page.get_by_role("img", name="Face of the finished bar")).to_be_visible()


class KeyboardTests(BrowserCase):
    def test_bars_are_opened_changed_and_left_by_keyboard_alone(self) -> None:
        self.open(HERRINGBONE)
        self.screen().child(0).focus()
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("button", name="Back to the")).to_be_visible()
        self.bar(3).focus()
        self.page.keyboard.press("Enter")
        self.page.get_by_label("Turns", exact=True).focus()
        with self.face_changes():
            self.page.keyboard.press("ArrowDown")
        expect(self.page.get_by_label("Turns", exact=True)).to_have_value("16")
        self.bar(3).focus()
        self.page.keyboard.press("ArrowRight")
        self.assertEqual(self.chosen(), "4")
        self.page.keyboard.press("u")
        expect(self.page.get_by_role("button", name="Back to the")).to_have_count(0)
        self.page.get_by_role("tab", name="Section").focus()
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("img", name="Section at")).to_be_visible()
