import { screen, waitFor } from "@testing-library/react";
import { expect, test } from "vitest";
import { server, shown } from "../lib/testing";
import { useJob } from "./useJob";

const JOB = { id: 7, state: "waiting", progress: 0, by: "smith", stop_asked: false, files: [], about: { kind: "print_face" } };

function Print() {
  const working = useJob("print_face", 3);
  return (
    <>
      <button type="button" onClick={() => working.order({ kind: "print_face", design: 3, side: "right", width_px: 400 })}>
        Make it
      </button>
      <button type="button" onClick={working.stop}>
        Stop
      </button>
      <p>{working.job?.state ?? "none"}</p>
      <p role="alert">{working.problem}</p>
    </>
  );
}

test("stopped before the server has said what it is called, it is stopped all the same", async () => {
  let answer: (job: object) => void = () => undefined;
  let now: object = JOB;
  const asked = server({
    "GET /api/jobs": () => [],
    "POST /api/jobs": () => new Promise((done) => (answer = done)),
    "GET /api/jobs/7": () => now,
    "POST /api/jobs/7/stop": () => (now = { ...JOB, state: "stopped" }),
  });
  const { hand } = shown(<Print />);
  await hand.click(screen.getByText("Make it"));
  await waitFor(() => expect(asked).toContain("POST /api/jobs"));
  await hand.click(screen.getByText("Stop"));
  answer(JOB);
  await screen.findByText("stopped");
  expect(asked.filter((a) => a.endsWith("/stop"))).toEqual(["POST /api/jobs/7/stop"]);
  expect(screen.getByRole("alert").textContent).toBe("");
});

test("nothing is stopped where nothing was begun", async () => {
  const asked = server({ "GET /api/jobs": () => [] });
  const { hand } = shown(<Print />);
  await hand.click(screen.getByText("Stop"));
  expect(asked.filter((a) => a.startsWith("POST"))).toEqual([]);
});
