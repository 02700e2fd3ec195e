"""Heat in the real interface: fires, carbon, the hardening plan and what readings change; keyboard, degrees, undo."""

import re

from playwright.sync_api import expect

from tests.e2e.base import BrowserCase


class HeatTests(BrowserCase):
    def open_heat(self, tab: str = "Fires", design: str = "Withy knife") -> None:
        self.open(design, f"heat/{tab.lower()}")

    def test_heats_of_the_smith_scale_in_the_ledger_and_what_melts(self) -> None:
        self.open_heat()
        table = self.page.get_by_role("region", name="Heats of every step")
        table.get_by_role("button", name="Weld").click()
        heats = self.field("Heats")
        heats.fill("5")
        heats.press("Enter")
        expect(table.locator("tr", has=self.page.get_by_role("button", name="Weld"))).to_contain_text("5")
        expect(self.page.get_by_text("yours")).to_be_visible()
        self.saved()
        self.page.reload()
        expect(table).to_contain_text("5")
        self.page.keyboard.press("z")
        expect(self.page.get_by_text("yours")).to_have_count(0)
        self.screen().quiet()
        lost = self.page.get_by_text("Lost on the way").locator("..")
        before = lost.inner_text()
        self.page.get_by_role("button", name="Count the scale").click()
        expect(self.page.get_by_text("Scale is counted as the fires reckon it")).to_be_visible()
        expect(lost).not_to_have_text(before)
        self.page.get_by_role("button", name="Undo", exact=True).click()
        expect(self.page.get_by_role("button", name="Count the scale")).to_be_visible()
        weld = self.field("Weld at")
        weld.fill("1400")
        weld.press("Enter")
        self.page.get_by_role("region", name="Heats of every step").get_by_role("button", name="Weld").click()
        expect(self.page.get_by_text("1084 melts.")).to_be_visible()
        weld.fill("9000")
        weld.press("Enter")
        expect(self.page.get_by_text("Below is what was worked out before.")).to_be_visible()
        weld.fill("glowing")
        weld.press("Enter")
        expect(self.page.get_by_text("is not a temperature")).to_be_visible()

    def test_what_the_fires_did_to_the_pattern_is_told_of_the_blade(self) -> None:
        """It comes after the rest, once the hands rest, and goes while the bar is being changed."""
        self.open("Fen raindrop")
        self.bar("blade").click()
        told = self.page.get_by_text("Carbon has evened out between the layers").filter(visible=True)
        expect(told).to_have_count(1)
        self.page.get_by_role("link", name="Heat", exact=True).click()
        self.page.get_by_role("tab", name="Carbon").click()
        expect(self.page.get_by_text("Carbon has evened out").filter(visible=True).first).to_be_visible()

    def test_a_draw_is_told_pass_by_pass_and_follows_the_tool(self) -> None:
        self.open_heat()
        steps = self.page.get_by_role("region", name="Heats of every step")
        steps.get_by_role("button", name="Draw out").first.click()
        passes = self.page.get_by_role("region", name="Pass by pass")
        expect(passes.get_by_role("columnheader", name="Stop block")).to_be_visible()
        rows = passes.get_by_role("row").count()
        self.assertGreater(rows, 4)
        self.under("a rolling mill")
        expect(passes.get_by_role("columnheader", name="Stop block")).to_have_count(0)
        expect(passes.get_by_role("row")).not_to_have_count(1)
        self.under("a hand hammer")
        expect(passes).to_have_count(0)

    def under(self, tool: str) -> None:
        self.page.get_by_role("button", name="Drawn out under").click()
        self.page.get_by_role("option", name=tool).click()

    def test_carbon_after_each_step(self) -> None:
        self.open_heat("Carbon")
        expect(self.page.get_by_role("img", name="Carbon across the layers")).to_be_visible()
        self.page.get_by_role("navigation", name="After which step").get_by_role("button").first.click()
        expect(self.page.get_by_role("heading", name="After weld")).to_be_visible()
        expect(self.page.get_by_text(re.compile(r"to even out\.|evened out\."))).to_be_visible()
        expect(self.page.get_by_text("mm across the layers")).to_be_visible()
        self.page.get_by_text("Faces as the fire leaves them").click()
        self.settled()

    def test_readings_change_the_temper(self) -> None:
        self.open_heat("Hardening")
        steps = self.page.get_by_role("region", name="Step by step")
        expect(steps).to_contain_text("Normalise")
        said = steps.get_by_role("listitem").filter(has=self.page.get_by_role("heading", name="Temper")).last
        before = said.inner_text()
        after = self.field("After the quench, HRC")
        after.fill("61 60.5 many")
        after.press("Enter")
        expect(self.page.get_by_text("Readings from 10 to 70")).to_be_visible()
        after.fill("61 60.5 60")
        after.press("Enter")
        expect(steps).to_contain_text("It did not come to full hardness.")
        expect(said).not_to_have_text(before)
        expect(self.page.get_by_text("softer than calculated")).to_be_visible()
        self.page.get_by_role("button", name="A temper was done").click()
        expect(self.field("Temper 1, oven")).to_be_visible()
        self.saved()
        self.page.get_by_role("button", name="Undo (Z)").click()
        self.page.get_by_role("button", name="Undo (Z)").click()
        self.page.get_by_role("button", name="A temper was done").click()
        read = self.field("Read then, HRC")
        read.fill("63 63.5 63")
        read.press("Enter")
        expect(self.page.get_by_role("heading", name="Temper again")).to_be_visible()
        self.page.get_by_role("button", name="A temper was done").click()
        expect(self.field("Hours in all").last).to_have_value("1")
        read = self.field("Read then, HRC").last
        read.fill("60 60")
        read.press("Enter")
        expect(self.page.get_by_role("heading", name="Tempered", exact=False).filter(has_text="readings entered")).to_be_visible()
        read.fill("56 56.5 56")
        read.press("Enter")
        expect(self.page.get_by_text("HRC softer than wanted")).to_be_visible()

    def test_from_the_fire_to_the_pairing_and_a_new_design(self) -> None:
        self.open_heat()
        self.page.get_by_role("link", name="How its steels go together").click()
        expect(self.page.get_by_text("They go together.")).to_be_visible()
        self.page.get_by_role("button", name="Begin a design with both").click()
        expect(self.page.get_by_alt_text("Right face of the blade as")).to_be_visible()
        self.settled()
        expect(self.field("Name of the design")).to_have_value("1084 and 15N20 nickel strip")

    def test_the_whole_plan_goes_on_paper_and_by_magnet_in_fahrenheit(self) -> None:
        self.open_heat("Hardening")
        expect(self.page.get_by_role("heading", name="Normalise")).to_be_visible()
        self.page.emulate_media(media="print")
        self.page.set_viewport_size({"width": 794, "height": 1120})
        expect(self.page.get_by_role("heading", name="Withy knife: hardening")).to_be_visible()
        expect(self.page.get_by_role("button", name="More about this design")).to_be_hidden()
        end = "e => e.getBoundingClientRect().bottom + scrollY"
        last = self.page.get_by_role("region", name="Step by step").get_by_role("heading", name="Temper").last.evaluate(end)
        self.assertGreater(last, 1120)
        self.assertLessEqual(last, self.page.evaluate("document.documentElement.scrollHeight"))
        self.page.emulate_media(media="screen")
        self.page.set_viewport_size({"width": 1280, "height": 800})
        self.page.get_by_text("by magnet, colour").click()
        self.screen().units(temperature="°F")
        expect(self.page.get_by_role("region", name="Step by step")).to_contain_text(
            "until a magnet lets go (by 1420 °F), then about 63 °F more"
        )
        expect(self.page.get_by_role("region", name="Step by step")).to_contain_text("about 1480 °F")

    def test_a_kiln_run_with_an_alarm_and_its_record(self) -> None:
        self.open_heat("Kiln")
        expect(self.field("1. To")).to_have_value("650")
        self.page.get_by_text("600 ×").click()
        self.page.get_by_role("button", name="Start the kiln").click()
        expect(self.page.get_by_text("Segment 1 of 2")).to_be_visible()
        self.page.get_by_role("button", name="Fail an element").click()
        expect(self.page.get_by_role("alert").filter(has_text="Alarm.")).to_be_visible()
        self.page.get_by_role("button", name="Hold here").click()
        expect(self.page.get_by_text("Held by hand.").first).to_be_visible()
        self.page.reload()
        self.page.get_by_role("tab", name="Kiln").click()
        self.page.get_by_role("button", name="Go on").click()
        self.page.get_by_role("button", name="Stop: power off").click()
        expect(self.page.get_by_text("Stopped: power off.")).to_be_visible()
        with self.page.expect_download() as waiting:
            self.page.get_by_role("link", name="Save the record").click()
        self.assertIn("chamber_C", waiting.value.path().read_text())
        self.page.get_by_role("button", name="A new run").click()
        self.page.get_by_role("button", name="Read the edge as quenched").click()
        expect(self.page.get_by_text("The tester reads")).to_be_visible()
        self.page.get_by_role("tab", name="Hardening").click()
        expect(self.field("After the quench, HRC")).not_to_have_value("")

    def test_programs_kept_and_exchanged(self) -> None:
        self.open_heat("Kiln")
        self.field("Name").fill("Marsh temper")
        self.page.get_by_role("button", name="Keep it").click()
        expect(self.page.get_by_text("Marsh temper is kept.")).to_be_visible()
        chosen = {"name": "slow.csv", "mimeType": "text/csv", "buffer": b"celsius,rate_C_h,hold_min\n190,100,90\n"}
        self.page.get_by_label("Program file", exact=True).set_input_files(chosen)
        expect(self.field("Name")).to_have_value("slow")
        expect(self.field("1. To")).to_have_value("190")
        self.page.get_by_label("Program file", exact=True).set_input_files({**chosen, "buffer": b"celsius\nhot\n"})
        expect(self.page.get_by_text("is no number")).to_be_visible()
        self.page.get_by_role("button", name="Program:").click()
        self.page.get_by_role("option", name="Marsh temper").click()
        expect(self.field("1. To")).to_have_value("650")
        self.page.get_by_role("button", name="Remove the kept program").click()
        self.page.get_by_role("button", name="Undo", exact=True).last.click()
        expect(self.page.get_by_role("button", name="Keep over the old")).to_be_visible()
        top = self.field("2. To")
        top.fill("1380")
        top.press("Enter")
        expect(self.page.get_by_text("1084 melts.")).to_be_visible()
        expect(self.page.get_by_role("button", name="Start the kiln")).to_be_disabled()
        top.fill("805")
        top.press("Enter")
        expect(self.page.get_by_role("button", name="Start the kiln")).to_be_enabled()
