import { Fragment, useState } from "react";
import { Link } from "react-router";
import type { BuildRecord, Operation } from "../../../api/types";
import { useSay, useUnits } from "../../../app/session";
import { Button, Segments } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { useFaultName } from "../../faults/useFaultName";
import { Photos } from "../Photos";
import { goalText, nameOf, textOf } from "../quantity";
import { useBuild } from "../useBuild";
import { buildAddress } from "../where";
import { entryText } from "./entryText";
import { Short } from "./Short";
import { differs, PLACES, took } from "./words";

const WHEN = new Intl.DateTimeFormat(undefined, { day: "numeric", month: "short", hour: "numeric", minute: "2-digit" });
type Which = "all" | "done" | "differs";
const WHICH: { value: Which; label: string }[] = [
  { value: "all", label: "all of it" },
  { value: "done", label: "what is done" },
  { value: "differs", label: "what differs" },
];

/** The whole route with planned and measured beside one another; every entry, and a way to take one back. */
export function BuildLog() {
  const { told, of } = useBuild();
  const [which, setWhich] = useState<Which>("all");
  const [open, setOpen] = useState("");
  const shown = told.operations.filter((o) =>
    which === "all" ? true : which === "done" ? of(o.id).standing !== "open" : differs(o, of(o.id)),
  );
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 py-4 max-[700px]:px-3">
      <div className="mx-auto max-w-6xl">
        <h1 className="sr-only">Log</h1>
        <Short />
        <div className="my-3 flex flex-wrap items-center gap-3">
          <div className="w-96 max-w-full">
            <Segments<Which> snug label="Which operations" value={which} options={WHICH} onChange={setWhich} />
          </div>
        </div>
        <table className="w-full border-collapse">
          <thead>
            <tr className="border-b border-edge text-left text-sm text-quiet">
              <th className="py-2 pr-3 font-normal">Operation</th>
              <th className="py-2 pr-3 font-normal">Planned → measured</th>
              <th className="py-2 pr-3 text-right font-normal max-[700px]:hidden">Minutes, planned → took</th>
              <th className="py-2 font-normal max-[700px]:hidden">When</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((o) => (
              <Row key={o.id} op={o} open={open === o.id} onOpen={() => setOpen(open === o.id ? "" : o.id)} />
            ))}
          </tbody>
        </table>
        <OfAll />
        {shown.length ? null : <p className="py-8 text-center text-quiet">Nothing of that kind so far.</p>}
      </div>
    </main>
  );
}

const MARKS = { done: "✓", skipped: "–", open: "" } as const;

function Row({ op, open, onOpen }: { op: Operation; open: boolean; onOpen: () => void }) {
  const fault = useFaultName();
  const { of, info, known } = useBuild();
  const say = useSay();
  const units = useUnits();
  const state = of(op.id);
  const time = took(op, state);
  const records = known.records.filter((r) => r.entry.op === op.id);
  const last = records.at(-1);
  const told = op.targets.filter((t) => state.measured[t.quantity] || t.measured !== null);
  return (
    <Fragment>
      <tr className={`border-b border-line align-top ${state.standing === "open" && !records.length ? "text-quiet" : ""}`}>
        <td className="py-2 pr-3">
          <button
            type="button"
            aria-expanded={open}
            onClick={onOpen}
            className="flex min-h-11 w-full items-start gap-2 text-left"
          >
            <span
              aria-hidden
              className={`w-5 shrink-0 text-center font-bold ${state.faults.length ? "text-care" : "text-accent"}`}
            >
              {state.faults.length ? "◆" : MARKS[state.standing]}
            </span>
            <span>
              <span className="font-semibold">{say(op.title)}</span>
              <span className="block text-sm text-quiet">
                {PLACES[op.place]}
                {state.standing === "skipped" ? ` · skipped: ${state.why}` : ""}
                {state.times > 1 ? ` · done ${state.times} times` : ""}
                {op.gone ? " · no longer in the plan" : ""}
              </span>
            </span>
          </button>
        </td>
        <td className="py-2 pr-3">
          {told.map((t) => {
            const value = state.measured[t.quantity]?.value ?? t.measured ?? t.value;
            const off = value === t.measured ? t.off : "";
            return (
              <p key={`${t.quantity}${t.says}`}>
                <span className="text-quiet">{nameOf(t)} </span>
                <span className="font-mono">
                  {goalText(t.quantity, t.value, units)} → <b>{textOf(t.quantity, value, units)}</b>
                </span>
                {off ? <span className="block text-sm text-care">{say(off)}</span> : null}
              </p>
            );
          })}
          {state.faults.map((f) =>
            f.kind === "fault" ? (
              <p key={f.id} className="text-care">
                Went wrong: {f.text || fault(f.fault ?? "")}
              </p>
            ) : null,
          )}
          {state.notes.map((n) => (n.kind === "note" ? <p key={n.id}>{n.text}</p> : null))}
          <Photos photos={state.photos} />
          {op.odd ? <p className="text-sm text-stop">{say(op.odd)}</p> : null}
        </td>
        <td className="py-2 pr-3 text-right font-mono whitespace-nowrap max-[700px]:hidden">
          {Math.round(op.attended)}
          {time.minutes !== null ? (
            <>
              {" → "}
              <b>{Math.round(time.minutes)}</b>
            </>
          ) : null}
          {time.off !== null && Math.abs(time.off) > 0.25 ? (
            <span className="block font-sans text-sm text-care">
              {Math.abs(Math.round(time.off * 100))} % {time.off > 0 ? "longer" : "shorter"}
            </span>
          ) : null}
        </td>
        <td className="py-2 whitespace-nowrap text-quiet max-[700px]:hidden">
          {last ? WHEN.format(new Date(last.entry.at)) : ""}
        </td>
      </tr>
      {open ? (
        <tr className="border-b border-line bg-panel">
          <td colSpan={4} className="px-7 py-2">
            <Entries records={records} op={op} />
            <Link className="inline-flex min-h-11 items-center underline" to={buildAddress(info.id, "sheet", op.id)}>
              Open it on the sheet
            </Link>
          </td>
        </tr>
      ) : null}
    </Fragment>
  );
}

/** What was written of the build as a whole. */
function OfAll() {
  const { known } = useBuild();
  const records = known.records.filter((r) => !r.entry.op);
  if (!records.some((r) => r.entry.kind !== "voided")) return null;
  return (
    <section aria-label="Of the build as a whole" className="mt-6">
      <h2 className="mb-1 text-lg font-bold">Of the build as a whole</h2>
      <Entries records={records} />
    </section>
  );
}

function Entries({ records, op }: { records: BuildRecord[]; op?: Operation }) {
  const { state, keeper } = useBuild();
  const of = op?.id ?? "";
  const units = useUnits();
  const say = useSay();
  const toast = useToast();
  const voids = new Map(
    records.flatMap((r) =>
      r.entry.kind === "voided" && !state.void.has(r.entry.id) ? [[r.entry.entry, r.entry.id] as const] : [],
    ),
  );
  const shown = records.filter((r) => r.entry.kind !== "voided");
  if (!shown.length) return <p className="text-quiet">Nothing was written down of it yet.</p>;
  const takeBack = async (r: BuildRecord) => {
    const [made] = await keeper.write([{ op: of, kind: "voided", entry: r.entry.id, why: "" }]);
    if (made) toast("It counts no more.", () => void keeper.write([{ op: of, kind: "voided", entry: made.id, why: "undone" }]));
  };
  return (
    <ul className="flex flex-col">
      {shown.map((r) => {
        const gone = state.void.has(r.entry.id);
        const by = voids.get(r.entry.id);
        return (
          <li key={r.entry.id} className="flex min-h-11 flex-wrap items-center gap-x-3">
            <span className="w-32 text-sm text-quiet">{WHEN.format(new Date(r.entry.at))}</span>
            <span className={gone ? "text-quiet line-through" : ""}>{say(entryText(r.entry, op, units))}</span>
            <span className="text-sm text-quiet">{r.by}</span>
            <span className="ml-auto">
              {gone && by ? (
                <Button
                  compact
                  kind="quiet"
                  onClick={() => void keeper.write([{ op: of, kind: "voided", entry: by, why: "it counts" }])}
                >
                  Count it again
                </Button>
              ) : gone ? null : (
                <Button compact kind="quiet" onClick={() => void takeBack(r)}>
                  Take back
                </Button>
              )}
            </span>
          </li>
        );
      })}
    </ul>
  );
}
