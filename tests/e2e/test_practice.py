"""Practice in the real browser: each exercise from its beginning to its score, by its own address, left and found again."""

from playwright.sync_api import expect

from tests.e2e.base import BrowserCase
from varistrat.practice import services
from varistrat.practice.models import Attempt


class PracticeTests(BrowserCase):
    def begin(self, kind: str, seed: int) -> None:
        self.page.goto(f"{self.live_server_url}/practice/new/{kind}?seed={seed}")
        expect(self.page.get_by_role("button", name=f"Copy the address of this exercise, seed {seed}")).to_be_visible()

    def test_from_the_list_and_back_to_one_that_was_left(self) -> None:
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/practice")
        self.page.get_by_role("link", name="Begin: Sums").click()
        expect(self.page.get_by_text("1 of 5")).to_be_visible()
        self.page.get_by_role("main").get_by_role("link", name="Practice").click()
        expect(self.page.get_by_text("not tried yet").first).to_be_visible()
        self.page.get_by_role("link", name="Go on: Sums").click()
        expect(self.page.get_by_text("1 of 5")).to_be_visible()
        self.assertEqual(Attempt.objects.count(), 1)
        self.page.goto(f"{self.live_server_url}/practice/987654")
        expect(self.page.get_by_role("heading", name="This exercise is not yours")).to_be_visible()
        self.page.goto(f"{self.live_server_url}/practice/new/juggling")
        expect(self.page.get_by_text("there is no exercise", exact=False)).to_be_visible()

    def test_the_core_is_ground_etched_measured_and_the_truth_told(self) -> None:
        self.sign_in()
        self.begin("core_centred", 1)
        expect(self.page.get_by_text("Nothing is seen yet")).to_be_visible()
        self.page.get_by_role("button", name="Test etch, 8 min").click()
        expect(self.page.get_by_text("As read in test etch 1")).to_be_visible()
        self.page.get_by_role("button", name="left, edge up").click(position={"x": 100, "y": 30})
        self.page.get_by_role("button", name="Grind the left").click()
        expect(self.page.get_by_text("These lines were read before")).to_be_visible()
        self.page.get_by_role("button", name="Caliper").click()
        expect(self.page.get_by_text("thick", exact=False).first).to_contain_text("from the heel")
        self.page.reload()
        expect(self.page.get_by_role("region", name="So far").get_by_role("listitem")).to_have_count(3)
        self.page.get_by_role("switch", name="It is good").click()
        self.page.get_by_role("button", name="Show me the truth").click()
        outcome = self.page.get_by_role("region", name="How it came out")
        expect(outcome).to_contain_text("of 100")
        expect(outcome.get_by_role("region", name="What an expert would have done")).to_contain_text("by the steering")

    def test_a_stretch_is_dragged_on_the_blade(self) -> None:
        self.sign_in()
        self.begin("core_centred", 1)
        side = self.page.get_by_role("button", name="left, edge up")
        box = side.bounding_box()
        assert box
        self.page.mouse.move(box["x"] + 0.25 * box["width"], box["y"] + 30)
        self.page.mouse.down()
        self.page.mouse.move(box["x"] + 0.6 * box["width"], box["y"] + 34, steps=6)
        self.page.mouse.up()
        # moved on without a button held: nothing changes any more
        self.page.mouse.move(box["x"] + 0.9 * box["width"], box["y"] + 30)
        cut = self.page.get_by_role("region", name="At the grinder")
        at, wide = (float(cut.get_by_role("textbox", name=n).input_value()) for n in ("About, from the heel", "Over"))
        self.assertAlmostEqual(wide / at, 0.35 / 0.425, delta=0.05)
        side.press("Enter")
        expect(self.page.get_by_role("button", name="Grind the left")).to_be_visible()

    def test_a_face_is_named_and_forged_a_fault_looked_for(self) -> None:
        self.sign_in()
        self.begin("read_face", 3)
        expect(self.page.get_by_alt_text("The face that is to be read")).to_be_visible()
        state = services.state_of(Attempt.objects.get())
        made = self.page.get_by_role("region", name="How it was made")
        titles = {c.key: c.title for c in services.exercise_of("read_face").shown(state).choices}  # type: ignore[attr-defined]
        made.get_by_role("button", name=titles[state.family]).click()  # type: ignore[attr-defined]
        made.get_by_role("button", name="Forge it so").click()
        expect(self.page.get_by_text("1 try")).to_be_visible()
        made.get_by_role("button", name="Like enough").click()
        expect(self.page.get_by_role("region", name="How it came out")).to_contain_text("Named at once")
        self.begin("find_fault", 5)
        state = services.state_of(Attempt.objects.get(kind="find_fault"))
        causes = self.page.get_by_role("region", name="Causes")
        causes.get_by_role("button", name="Look,", exact=False).first.click()
        expect(self.page.get_by_role("region", name="So far").get_by_role("listitem")).to_have_count(1)
        says = next(c.says for c in services.exercise_of("find_fault").shown(state).causes if c.key == state.cause)  # type: ignore[attr-defined]
        causes.get_by_role("button", name=f"It is this: {says}").click()
        causes.get_by_role("button", name=f"Cure it: {says}").click()
        expect(self.page.get_by_role("region", name="How it came out")).to_contain_text("It was:")

    def test_heats_by_eye_and_sums_by_the_keyboard(self) -> None:
        self.sign_in()
        self.begin("by_eye", 2)
        field = self.page.get_by_label("It is at", exact=True)
        for n in range(8):
            expect(self.page.get_by_text(f"{n + 1} of 8")).to_be_visible()
            field.fill("800")
            field.press("Enter")
        expect(self.page.get_by_role("region", name="How it came out")).to_contain_text("C off at the mean")
        self.begin("sums", 4)
        for n in range(5):
            expect(self.page.get_by_text(f"{n + 1} of 5")).to_be_visible()
            form = self.page.get_by_role("form", name="The sum")
            form.get_by_role("textbox").fill("12")
            form.get_by_role("button", name="That is it").click()
        expect(self.page.get_by_role("region", name="How it came out")).to_contain_text("right to a hundredth")
        self.page.goto(f"{self.live_server_url}/practice")
        expect(self.page.get_by_text("1 done, the best")).to_have_count(2)
