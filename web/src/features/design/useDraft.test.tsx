import "fake-indexeddb/auto";
import { screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import type { DesignFull, Document } from "../../api/types";
import { server, shown } from "../../lib/testing";
import type { Draft } from "./draft";
import { fresh } from "./draft";
import { useDraft } from "./useDraft";

const DOCUMENT = { recipe: { bar: { id: "b", steps: [] } }, blade: null, off: [] } as unknown as Document;
const DESIGN = { id: 3, name: "Withy", current: 4, document: DOCUMENT } as unknown as DesignFull;

function Table({ design = DESIGN, left }: { design?: DesignFull; left?: Draft }) {
  const { draft, saving, change } = useDraft(design, left);
  return (
    <>
      <button type="button" onClick={() => change({ type: "rename", name: `${draft.name}!` })}>
        Rename
      </button>
      <p role="status">{draft.dirty ? saving.state : "rests"}</p>
      <p>on {draft.base}</p>
    </>
  );
}

test("what is changed while a save is under way is saved after it, upon it: one's own saves never stand in one another's way", async () => {
  const bodies: { base: number; name: string }[] = [];
  let answer: (line: object) => void = () => undefined;
  const asked = server({
    "PUT /api/designs/3": (body) => {
      bodies.push(body as { base: number; name: string });
      return new Promise((done) => (answer = done));
    },
  });
  const { hand } = shown(<Table />);
  await hand.click(screen.getByText("Rename"));
  await waitFor(() => expect(bodies).toHaveLength(1));
  await hand.click(screen.getByText("Rename"));
  // the tablet is put away: whatever wants to be saved wants it now
  Object.defineProperty(document, "visibilityState", { value: "hidden", configurable: true });
  document.dispatchEvent(new Event("visibilitychange"));
  expect(bodies).toHaveLength(1);
  answer({ current: 5 });
  await waitFor(() => expect(bodies).toHaveLength(2));
  answer({ current: 6 });
  await screen.findByText("on 6");
  expect(bodies.map((b) => [b.base, b.name])).toEqual([
    [4, "Withy!"],
    [5, "Withy!!"],
  ]);
  expect(screen.getByRole("status").textContent).toBe("rests");
  expect(asked.filter((a) => a.startsWith("PUT"))).toHaveLength(2);
});

test("what a page left unsaved is told to the server at once: what it has already is one's own, and what is changed next stands on it", async () => {
  const bodies: { base: number; name: string }[] = [];
  const answers: ((line: object) => void)[] = [];
  server({
    "PUT /api/designs/3": (body) => {
      bodies.push(body as { base: number; name: string });
      return new Promise((done) => answers.push(done));
    },
  });
  // the save on its way had arrived: 4 is this very draft, as the server writes it
  const left: Draft = { ...fresh(DOCUMENT, "Withy", 3), dirty: true };
  const { hand } = shown(<Table left={left} />);
  await waitFor(() => expect(bodies).toHaveLength(1));
  await hand.click(screen.getByText("Rename"));
  answers[0]?.({ current: 4 });
  await waitFor(() => expect(bodies).toHaveLength(2));
  answers[1]?.({ current: 5 });
  await screen.findByText("on 5");
  expect(bodies.map((b) => [b.base, b.name])).toEqual([
    [3, "Withy"],
    [4, "Withy!"],
  ]);
});

test("what another saved meanwhile is not taken for one's own", async () => {
  server({
    "PUT /api/designs/3": () => Response.json({ code: "stale", title: "", current: 4, kept: 5, problems: [] }, { status: 409 }),
  });
  const left: Draft = { ...fresh(DOCUMENT, "Mine", 3), dirty: true };
  shown(<Table left={left} />);
  await waitFor(() => expect(screen.getByRole("status").textContent).toBe("stale"));
  expect(screen.getByText("on 3")).toBeTruthy();
});
