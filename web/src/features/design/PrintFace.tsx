import { useState } from "react";
import type { Side } from "../../api/types";
import { JobBar } from "../../app/JobBar";
import { useJob } from "../../app/useJob";
import { Button, Modal, Segments } from "../../ui";
import { Measure } from "./fields/Measure";

const DOTS_PER_MM = 300 / 25.4;

/** A print-size picture of one face, made in the background. */
export function PrintFace({ id, length, open, onClose }: { id: number; length: number; open: boolean; onClose: () => void }) {
  const [side, setSide] = useState<Side>("right");
  const [times, setTimes] = useState(2);
  const working = useJob("print_face", open ? id : undefined);
  const { job, busy } = working;
  const done = job?.state === "done" && job.about.kind === "print_face" ? job.about : null;
  const px = Math.round(Math.min(12000, (length + 8) * DOTS_PER_MM * times));
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
        {busy ? null : (
          <Button kind="main" onClick={() => working.order({ kind: "print_face", design: id, side, width_px: px })}>
            Make the picture
          </Button>
        )}
        <JobBar working={working} what="picture" />
        {job && done ? (
          <a
            className="inline-flex min-h-11 items-center rounded-lg border border-edge px-4 font-semibold text-accent"
            href={`/api/jobs/${job.id}/files/0`}
          >
            Save the {done.side} face, {done.width_px} px wide
          </a>
        ) : null}
      </div>
    </Modal>
  );
}
