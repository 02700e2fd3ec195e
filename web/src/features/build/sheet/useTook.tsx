import { useEffect, useState } from "react";
import type { Operation } from "../../../api/types";
import { parseNumber } from "../../../lib/units";
import { keepTyped, typedOf } from "../shelf";
import { useBuild } from "../useBuild";

const BEGAN = "began";
/** Longer than so many times the plan (and an hour), the tablet lay there while something else was done. */
const TIMES = 4;

/** How long an operation took: since it was first on this screen, or as one says. */
export function useTook(op: Operation) {
  const { keeper, of } = useBuild();
  const { user, build } = keeper;
  const [began, setBegan] = useState<number | null>(null);
  const [text, setText] = useState<string | null>(null);
  const [now, setNow] = useState(() => Date.now());
  const open = of(op.id).standing === "open";
  useEffect(() => {
    if (!open) return;
    void typedOf(user, build, op.id)
      .then((found) => {
        const at = Number(found[BEGAN]) || Date.now();
        setBegan(at);
        if (!found[BEGAN]) void keepTyped(user, build, op.id, BEGAN, String(at)).catch(() => undefined);
      })
      .catch(() => setBegan(Date.now()));
    const each = window.setInterval(() => setNow(Date.now()), 15_000);
    return () => window.clearInterval(each);
  }, [open, user, build, op.id]);
  const passed = began === null ? 0 : Math.max(0, Math.round((now - began) / 60_000));
  const likely = passed >= 1 && passed <= Math.max(60, TIMES * op.attended) ? passed : null;
  const shown = text ?? (likely === null ? "" : String(likely));
  return {
    take: (): number | null => {
      const found = parseNumber(shown.replace(/\s*min$/, ""));
      return found.ok && found.value >= 0 && found.value <= 1e5 ? found.value : null;
    },
    clear: () => {
      setText(null);
      void keepTyped(user, build, op.id, BEGAN, "").catch(() => undefined);
    },
    field: (
      <label className="flex items-center gap-1 text-quiet">
        <span className="max-[560px]:sr-only">took</span>
        <input
          inputMode="numeric"
          autoComplete="off"
          aria-label="Took, minutes"
          value={shown}
          placeholder={`${Math.round(op.attended)}`}
          onChange={(e) => setText(e.target.value)}
          className="min-h-11 w-16 rounded-lg border border-edge bg-well px-2 text-right font-mono text-ink"
        />
        min
      </label>
    ),
  };
}
