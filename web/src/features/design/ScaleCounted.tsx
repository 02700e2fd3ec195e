import { useState } from "react";
import { api, ask, whatWentWrong } from "../../api/client";
import type { Against, ScaleCounted as Counted } from "../../api/types";
import { useUnit } from "../../app/session";
import { length } from "../../lib/units";
import { Button } from "../../ui";
import { useToast } from "../../ui/toast";
import { useTable } from "./table";
import { Worse } from "./Worse";

/** Whether the design counts the scale that its fires take, in so many words, and the button that counts it. */
export function ScaleCounted({ counted }: { counted: Counted }) {
  const { document, change, undo } = useTable();
  const [worse, setWorse] = useState<Against[]>([]);
  const unit = useUnit();
  const toast = useToast();
  const { counting, steps, takes } = counted;
  const missing = steps - counted.counted;
  if (counting === "cold") return null;
  const count = () =>
    ask(api.POST("/api/heat/counted", { body: { document } }))
      .then((made) => {
        change({ type: "document", document: made.document });
        setWorse(made.worse);
        toast("Every step counts the scale now that its fire takes.", undo);
      })
      .catch((e) => toast(whatWentWrong(e)));
  const care = counting === "none" || counting === "partly";
  return (
    <div
      className={`flex flex-wrap items-center gap-x-3 gap-y-1 ${care ? "border-l-4 border-care bg-care-wash px-3 py-1.5" : "text-quiet"}`}
    >
      <p className="min-w-0">
        {counting === "reckoned" ? "Scale is counted as the fires reckon it: indicative, a factor of 1.5." : null}
        {counting === "own" ? "Scale is counted as you have it in the steps; the fires reckon otherwise." : null}
        {care ? (
          <>
            <b>{counting === "none" ? "No scale is counted" : `${missing} of ${steps} steps in the fire count no scale`}.</b>{" "}
            {takes === null
              ? "With the scale that the fires take, the bar could not be made so."
              : takes >= 0.5
                ? `The scale would make the finished bar ${length(takes, unit)} shorter.`
                : "The scale would take hardly any of the bar's length."}
          </>
        ) : null}
      </p>
      {counting === "reckoned" ? null : (
        <Button compact onClick={() => void count()}>
          Count the scale
        </Button>
      )}
      <Worse worse={worse} />
    </div>
  );
}
