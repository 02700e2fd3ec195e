import { useState } from "react";
import { useDegrees } from "../../app/session";
import { temperature } from "../../lib/units";
import { Button } from "../../ui";
import { Measure } from "../design/fields/Measure";
import type { Turn } from "./attempt";

const ROOM: Record<string, string> = { "dark shop": "#0c0b0a", "light shop": "#8d8a83", daylight: "#d9d6cd" };

/** A heat on the screen, to be named; what was said before beside what it was. */
export function ByEye({ shown, act, busy }: Turn<"by_eye">) {
  const heat = useDegrees();
  const low = shown.light === "daylight" ? 200 : 600;
  const high = shown.light === "daylight" ? 350 : 1300;
  const [celsius, setCelsius] = useState((low + high) / 2);
  return (
    <div className="grid gap-6 min-[900px]:grid-cols-[minmax(0,1fr)_22rem]">
      {shown.colour && shown.light ? (
        <section aria-label="The steel">
          <div className="grid h-80 place-items-center rounded-xl" style={{ background: ROOM[shown.light] }}>
            <svg
              viewBox="0 0 420 120"
              className="w-4/5"
              role="img"
              aria-label={`Steel in a ${shown.light === "daylight" ? "light by the window" : shown.light}`}
            >
              <rect x={10} y={40} width={400} height={44} rx={4} fill={shown.colour} />
            </svg>
          </div>
          <p className="mt-2 text-quiet">
            {shown.light === "daylight"
              ? "A run colour on clean bright steel, after half an hour, by daylight."
              : `It glows, in a ${shown.light}. Screens differ: turn this one's brightness up, and take the lamp away.`}
          </p>
        </section>
      ) : (
        <p>All rounds are over.</p>
      )}
      <section aria-label="Your word" className="flex flex-col gap-3">
        {shown.colour ? (
          <form
            className="flex flex-col gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              act({ do: "say", celsius });
            }}
          >
            <p className="text-quiet">
              {shown.before.length + 1} of {shown.rounds}
            </p>
            <Measure
              label="It is at"
              unit="C"
              slider
              span={[low, high, 5]}
              value={celsius}
              onChange={(v) => setCelsius(Math.min(1500, Math.max(20, v ?? celsius)))}
            />
            <Button kind="main" type="submit" disabled={busy}>
              That is it
            </Button>
          </form>
        ) : null}
        <table className="w-full text-sm">
          <thead className="text-quiet">
            <tr className="text-left">
              <th className="font-normal">Shown</th>
              <th className="text-right font-normal">It was</th>
              <th className="text-right font-normal">You said</th>
            </tr>
          </thead>
          <tbody>
            {shown.before.map((b, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a round is its place in the list
              <tr key={i} className="border-t border-line">
                <td className="py-1">
                  <span aria-hidden className="mr-2 inline-block h-4 w-8 rounded align-middle" style={{ background: b.colour }} />
                  {b.light}
                </td>
                <td className="text-right font-mono">{temperature(b.celsius, heat)}</td>
                <td className="text-right font-mono">{temperature(b.said, heat)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </div>
  );
}
