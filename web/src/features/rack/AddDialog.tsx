import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import type { TypedLine } from "../../api/types";
import { useSay, useUnit } from "../../app/session";
import { useSettled } from "../../lib/rest";
import { Button, Modal } from "../../ui";
import { useRackChange } from "./useRack";

const EXAMPLES = {
  mm: "1084 6 x 40 x 1000 x 2\n15n20 1.6 x 40 x 1200 x 3\n1018 tube 50 x 3 x 900\n1095 round 20 x 500",
  inch: "1084 1/4 x 1 1/2 x 48 x 2\n15n20 1/16 x 1 1/2 x 48 x 3\n1018 tube 2 x 1/8 x 36\n1095 round 3/4 x 20",
};
const LATER_MS = 250;

/** Bars typed as one would say them, understood line by line before anything is kept. */
export function AddDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const unit = useUnit() === "mm" ? "mm" : "inch";
  const [text, setText] = useState("");
  const asked = useSettled(text, LATER_MS);
  const say = useSay();
  const change = useRackChange();
  const lines = useQuery({
    queryKey: ["typed", unit, asked],
    queryFn: () => ask(api.POST("/api/rack/typed", { body: { text: asked, unit } })),
    enabled: open && asked.trim() !== "",
    placeholderData: (before) => before,
  });
  const found = asked.trim() ? (lines.data ?? []) : [];
  const items = found.flatMap((l) => (l.item ? [l.item] : []));
  const wrong = found.length - items.length;
  const settled = asked === text && !lines.isFetching;
  const keep = () =>
    void change(
      ask(api.POST("/api/rack/items", { body: { items } })),
      `${items.length} ${items.length === 1 ? "item" : "items"} in the rack.`,
    ).then((well) => {
      if (!well) return;
      setText("");
      onClose();
    });
  return (
    <Modal open={open} onClose={onClose} title="Put bars into the rack" wide>
      <div className="grid grid-cols-2 gap-4 max-[760px]:grid-cols-1">
        <div>
          <label htmlFor="typed-bars" className="mb-1 block text-sm text-quiet">
            A line for each: steel, form if it is not flat, thickness × width × length, and how many
          </label>
          <textarea
            id="typed-bars"
            value={text}
            onChange={(e) => setText(e.target.value)}
            placeholder={EXAMPLES[unit]}
            rows={9}
            spellCheck={false}
            className="w-full rounded-lg border border-edge bg-well p-3 font-mono"
          />
          <p className="text-sm text-quiet">
            Bare numbers are {unit === "mm" ? "mm" : "inches"}; fractions are inches everywhere. Round, square, octagon, hexagon,
            rods: across and length. Tube: across, wall, length. Powder: by mass, like “1084 powder 5 kg”.
          </p>
        </div>
        <div aria-live="polite" className="max-h-96 overflow-y-auto">
          <p className="mb-1 text-sm text-quiet">
            {found.length ? "Understood as" : "What is understood is shown here before it is kept."}
          </p>
          <ul className="flex flex-col gap-1">
            {found.map((line, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: lines are told by where they stand
              <Understood key={i} line={line} say={say} />
            ))}
          </ul>
        </div>
      </div>
      <div className="mt-4 flex items-center justify-end gap-3">
        {wrong ? <p className="text-sm text-stop">{wrong === 1 ? "One line is" : `${wrong} lines are`} not understood.</p> : null}
        <Button onClick={onClose}>Leave it</Button>
        <Button kind="main" disabled={!items.length || wrong > 0 || !settled} onClick={keep}>
          Put {items.length || ""} into the rack
        </Button>
      </div>
    </Modal>
  );
}

function Understood({ line, say }: { line: TypedLine; say: (text: string) => string }) {
  return (
    <li className={`rounded-lg border-l-4 px-3 py-1.5 ${line.item ? "border-note bg-note-wash" : "border-stop bg-stop-wash"}`}>
      <span className="block font-mono text-sm text-quiet">{line.text}</span>
      {line.item ? say(line.says) : `${line.wrong}; ${line.cure}.`}
    </li>
  );
}
