import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import type { Side } from "../../api/types";
import { Button, Modal, Notice, Segments } from "../../ui";
import { Measure } from "./fields/Measure";

const DOTS_PER_MM = 300 / 25.4;

/** A print-size picture of one face, made in the background. */
export function PrintFace({ id, length, open, onClose }: { id: number; length: number; open: boolean; onClose: () => void }) {
  const [side, setSide] = useState<Side>("right");
  const [times, setTimes] = useState(2);
  const [job, setJob] = useState<number | null>(null);
  const [problem, setProblem] = useState("");
  const px = Math.round(Math.min(12000, (length + 8) * DOTS_PER_MM * times));
  const state = useQuery({
    queryKey: ["print", job],
    queryFn: () => ask(api.GET("/api/print-jobs/{job_id}", { params: { path: { job_id: job ?? 0 } } })),
    enabled: job !== null,
    refetchInterval: (q) => (q.state.data && ["done", "failed", "cancelled"].includes(q.state.data.state) ? false : 500),
  }).data;
  const order = () => {
    setProblem("");
    ask(api.POST("/api/print-jobs", { body: { design: id, side, width_px: px } }))
      .then((j) => setJob(j.id))
      .catch((e: Error) => setProblem(e.message));
  };
  const busy = job !== null && (!state || state.state === "waiting" || state.state === "running");
  return (
    <Modal open={open} onClose={onClose} title="Print-size face">
      <div className="flex flex-col gap-3">
        <Segments
          label="Side"
          value={side}
          options={[
            { value: "right", label: "Right" },
            { value: "left", label: "Left" },
          ]}
          onChange={setSide}
        />
        <Measure
          label="Times life size, at 300 dots per inch"
          unit="×"
          value={times}
          onChange={(v) => setTimes(Math.min(10, Math.max(0.5, v ?? 1)))}
        />
        <p className="text-quiet">
          {px} pixels wide, with the scale written in the file.{px === 12000 ? " That is as large as it goes." : ""}
        </p>
        {problem ? <Notice tone="stop">{problem}</Notice> : null}
        {busy ? (
          <>
            <progress className="w-full" max={1} value={state?.progress ?? 0} aria-label="Progress of the picture" />
            <Button
              onClick={() => {
                if (job) void ask(api.DELETE("/api/print-jobs/{job_id}", { params: { path: { job_id: job } } }));
              }}
            >
              Stop
            </Button>
          </>
        ) : (
          <Button kind="main" onClick={order}>
            Make the picture
          </Button>
        )}
        {state?.state === "done" ? (
          <a
            className="inline-flex min-h-11 items-center rounded-lg border border-edge px-4 font-semibold text-accent"
            href={`/api/print-jobs/${state.id}/face.png`}
          >
            Save the {state.side} face, {state.width_px} px wide
          </a>
        ) : null}
        {state?.state === "failed" ? <Notice tone="stop">{state.problem}</Notice> : null}
        {state?.state === "cancelled" ? <p className="text-quiet">Stopped.</p> : null}
      </div>
    </Modal>
  );
}
