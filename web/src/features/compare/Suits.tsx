import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { JobBar } from "../../app/JobBar";
import { useJob } from "../../app/useJob";
import { percent } from "../../lib/units";
import { useSize } from "../../lib/useSize";
import { Button, Choice, Segments } from "../../ui";
import { BottomAxis, LeftAxis, path, scaled } from "../../ui/chart";
import { ERRORS } from "../design/grind/errors";
import { changes, type Row, ranked, verdict } from "./suits";

const MOST = 24;
const KINDS = ["core_offset", "core_share", "dip", "cup", "twist", "uneven", "edge", "flow"];
const DASHES = ["", "7 4", "2 4", "10 3 2 3"];

/** Which of one's designs suits how one works: the chance of first grade of each, over how large one's errors are. */
export function Suits() {
  const designs = useQuery({ queryKey: ["designs"], queryFn: () => ask(api.GET("/api/designs")) }).data ?? [];
  const working = useJob("family_study", undefined, true);
  const [left, setLeft] = useState<number[] | null>(null);
  const [error, setError] = useState("all");
  const result = working.job?.result?.kind === "family_study" ? working.job.result : null;
  const about = working.job?.about.kind === "family_study" ? working.job.about : null;
  const ids = designs.map((d) => d.id);
  const chosen = (left ?? about?.designs ?? ids.slice(0, MOST)).filter((id) => ids.includes(id));
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] overflow-y-auto min-[900px]:grid-cols-[20rem_minmax(0,1fr)] min-[900px]:overflow-hidden">
      <section aria-label="Which designs" className="border-line px-4 py-3 min-[900px]:overflow-y-auto min-[900px]:border-r">
        <Choice
          titled
          label="Errors looked at"
          value={error}
          options={[
            { value: "all", label: "all of them together" },
            ...KINDS.map((k) => ({ value: k, label: ERRORS.find((e) => e.name === k)?.label ?? k })),
          ]}
          onChange={setError}
        />
        <fieldset className="mt-3">
          <legend className="font-semibold">
            Designs ({chosen.length}, at the most {MOST})
          </legend>
          {designs.map((d) => (
            <label key={d.id} className="flex min-h-11 items-center gap-3">
              <input
                type="checkbox"
                className="h-5 w-5 accent-(--color-accent)"
                checked={chosen.includes(d.id)}
                disabled={!chosen.includes(d.id) && chosen.length >= MOST}
                onChange={(e) => setLeft(e.target.checked ? [...chosen, d.id] : chosen.filter((id) => id !== d.id))}
              />
              <span className="min-w-0 flex-1 truncate">{d.name}</span>
            </label>
          ))}
        </fieldset>
      </section>
      <section aria-label="Which suits" className="flex flex-col gap-3 px-4 py-3 min-[900px]:overflow-y-auto">
        <div className="flex flex-wrap items-center gap-3">
          <Button
            kind="main"
            disabled={chosen.length < 2 || working.busy}
            onClick={() => working.order({ kind: "family_study", designs: chosen, error })}
          >
            Make a thousand of each
          </Button>
          <JobBar working={working} what="study" />
        </div>
        {result?.designs.length ? (
          <Found
            key={`${about?.error}`}
            rows={result.designs}
            scales={result.scales}
            others={result.others}
            what={
              about?.error === "all" || !about
                ? "errors"
                : (ERRORS.find((e) => e.name === about.error)?.label.toLowerCase() ?? "error")
            }
          />
        ) : working.busy ? null : (
          <p className="max-w-[40rem] text-quiet">
            The same thousand hands, from steady to unsteady, make every one of these designs. What comes out is the share of
            blades of first grade of each: a design that looks best on paper may be the one that forgives least. Only designs with
            a core that lies flat have a line to hold.
          </p>
        )}
      </section>
    </div>
  );
}

const near = (scales: number[], wanted: number) =>
  scales.reduce((best, s, i) => (Math.abs(s - wanted) < Math.abs((scales[best] ?? 0) - wanted) ? i : best), 0);

function Found({ rows, scales, others, what }: { rows: Row[]; scales: number[]; others: number[]; what: string }) {
  const [at, setAt] = useState(near(scales, 1));
  const [rest, setRest] = useState(near(others, 1));
  // none chosen is none drawn; the best three until somebody chooses
  const [looked, setLooked] = useState<number[] | null>(null);
  const list = ranked(rows, at, rest);
  const shown = looked ?? list.slice(0, 3).map((r) => r.design);
  const refused = rows.filter((r) => r.problem);
  const turns = changes(rows, scales, rest);
  return (
    <>
      <p className="text-lg font-semibold" role="status">
        {verdict(list)}
      </p>
      {turns.length > 1 ? (
        <p>
          {turns
            .map((t, i) => `${i ? `from ${t.scale} times your usual ${what} on, ` : "With a steady hand "}${t.name}`)
            .join("; ")}
          .
        </p>
      ) : null}
      {others.length > 1 ? (
        <Segments
          titled
          label="All other errors"
          value={String(rest)}
          options={others.map((o, i) => ({ value: String(i), label: o === 1 ? "as usual" : o < 1 ? "half" : `${o} times` }))}
          onChange={(v) => setRest(Number(v))}
        />
      ) : null}
      <Lines rows={rows} scales={scales} rest={rest} at={at} onAt={setAt} shown={shown} what={what} />
      <label className="block">
        <span className="text-sm text-quiet">
          Your {what}: {scales[at] === 1 ? "as usual" : `${scales[at]} times usual`}
        </span>
        <input
          type="range"
          min={0}
          max={scales.length - 1}
          value={at}
          aria-valuetext={`${scales[at]} times usual`}
          onChange={(e) => setAt(Number(e.target.value))}
          className="h-8 w-full accent-(--color-accent)"
        />
      </label>
      <table className="w-full text-left">
        <caption className="sr-only">Chance of first grade of each design</caption>
        <thead>
          <tr className="text-sm text-quiet">
            <th className="py-1 font-normal">Design</th>
            <th className="font-normal">First grade</th>
            <th className="font-normal max-[700px]:hidden" aria-hidden />
          </tr>
        </thead>
        <tbody>
          {list.map((r) => (
            <tr key={r.design} className="border-t border-line">
              <td>
                <button
                  type="button"
                  aria-pressed={shown.includes(r.design)}
                  onClick={() =>
                    setLooked(
                      shown.includes(r.design) ? shown.filter((d) => d !== r.design) : [...shown, r.design].slice(-DASHES.length),
                    )
                  }
                  className="min-h-11 text-left aria-pressed:font-semibold"
                >
                  {r.name}
                </button>
              </td>
              <td className="font-mono whitespace-nowrap">
                {percent(r.first)} ± {percent(2 * r.error)}
              </td>
              <td className="w-1/3 max-[700px]:hidden" aria-hidden>
                <span className="block h-3 rounded bg-accent" style={{ width: `${100 * r.first}%` }} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {refused.length ? (
        <p className="text-sm text-quiet">
          Without a line to hold: {refused.map((r) => r.name).join(", ")} (no core that lies flat between its clads).
        </p>
      ) : null}
    </>
  );
}

const TALL = 260;

function Lines({
  rows,
  scales,
  rest,
  at,
  onAt,
  shown,
  what,
}: {
  rows: Row[];
  scales: number[];
  rest: number;
  at: number;
  onAt: (i: number) => void;
  shown: number[];
  what: string;
}) {
  const [ref, room] = useSize<HTMLDivElement>();
  const right = Math.max(160, room.width - 150);
  const px = scaled([0, scales.at(-1) ?? 1], [44, right]);
  const py = scaled([0, 1], [TALL - 42, 10]);
  const good = rows.filter((r) => !r.problem);
  const line = (r: Row) => path(scales.map((s, i) => [px(s), py(r.first[rest]?.[i] ?? 0)] as const));
  const labels = spaced(good.filter((r) => shown.includes(r.design)).map((r) => ({ row: r, y: py(r.first[rest]?.at(-1) ?? 0) })));
  return (
    <figure aria-label="Chance of first grade against how large the errors are">
      <div ref={ref} style={{ height: TALL }}>
        {room.width > 120 ? (
          <svg
            width={room.width}
            height={TALL}
            role="img"
            aria-label={`Chance of first grade of ${good.length} designs, for errors from none to ${scales.at(-1)} times usual`}
            onPointerDown={(e) => onAt(near(scales, px.invert(e.clientX - e.currentTarget.getBoundingClientRect().left)))}
            className="touch-pan-y"
          >
            <LeftAxis from={44} to={right} marks={[0, 0.25, 0.5, 0.75, 1].map((v) => ({ at: py(v), text: percent(v) }))} />
            <BottomAxis
              y={TALL - 22}
              from={44}
              to={right}
              base={TALL - 42}
              marks={scales.map((s) => ({ at: px(s), text: `${s}` }))}
            />
            <text x={(44 + right) / 2} y={TALL - 4} textAnchor="middle" fontSize={13} fill="var(--quiet)">
              {what}, times usual
            </text>
            {good
              .filter((r) => !shown.includes(r.design))
              .map((r) => (
                <path key={r.design} d={line(r)} fill="none" stroke="var(--edge)" strokeWidth={1} opacity={0.6} />
              ))}
            {labels.map(({ row, y }, i) => (
              <g key={row.design}>
                <path d={line(row)} fill="none" stroke="var(--accent)" strokeWidth={2.4} strokeDasharray={DASHES[i]} />
                <path
                  d={`M${right} ${py(row.first[rest]?.at(-1) ?? 0)}L${right + 10} ${y}h4`}
                  fill="none"
                  stroke="var(--quiet)"
                />
                <text x={right + 18} y={y + 4} fontSize={13} fill="var(--ink)">
                  {row.name.length > 18 ? `${row.name.slice(0, 17)}…` : row.name}
                </text>
              </g>
            ))}
            <line
              x1={px(scales[at] ?? 1)}
              x2={px(scales[at] ?? 1)}
              y1={10}
              y2={TALL - 42}
              stroke="var(--ink)"
              strokeWidth={1.6}
            />
          </svg>
        ) : null}
      </div>
      <figcaption className="text-sm text-quiet">
        1,024 blades of each at every point, the same hands for all: two standard errors are at the most 3 %. Press a design's
        name to draw it strong.
      </figcaption>
    </figure>
  );
}

/** Labels so far apart that they can be read, in their order. */
function spaced<T extends { y: number }>(labels: T[], least = 17): T[] {
  const sorted = [...labels].sort((a, b) => a.y - b.y);
  let last = Number.NEGATIVE_INFINITY;
  const out = sorted.map((l) => {
    last = Math.max(l.y, last + least);
    return { ...l, y: last };
  });
  const over = Math.max(0, (out.at(-1)?.y ?? 0) - (TALL - 30));
  return out.map((l) => ({ ...l, y: l.y - over }));
}
