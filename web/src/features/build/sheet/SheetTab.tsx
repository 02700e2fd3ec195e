import { ArrowLeft, ArrowRight, Check as CheckMark, CircleAlert, NotebookPen, SkipForward } from "lucide-react";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { Operation } from "../../../api/types";
import { useSay } from "../../../app/session";
import { useKeys } from "../../../lib/useKeys";
import { Button } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { useFaultName } from "../../faults/useFaultName";
import { keepAwake } from "../bell";
import { EdgeTested } from "../finish/EdgeTested";
import { looksText } from "../log/entryText";
import { ShortHere } from "../log/Short";
import { PLACES } from "../log/words";
import { PhotoButton, Photos } from "../Photos";
import { useBuild } from "../useBuild";
import { buildAddress, useWhere } from "../where";
import { Before } from "./Before";
import { Checks } from "./Checks";
import { Dots } from "./Dots";
import { Fields } from "./Fields";
import { useKeptPictures } from "./pictures";
import { TellDialog, type Telling } from "./TellDialog";
import { TimerButtons } from "./TimerButtons";
import { useFields } from "./useFields";
import { useTook } from "./useTook";

/** One operation fills the screen: what to do, what to reach, what it is; done, and on. */
export function SheetTab() {
  const { route, next, info } = useBuild();
  const { op: wanted } = useWhere();
  useKeptPictures();
  const op = route.find((o) => o.id === wanted) ?? next;
  const [awake, setAwake] = useState(false);
  useEffect(() => keepAwake(setAwake), []);
  if (!op)
    return (
      <main className="grid flex-1 place-items-center p-8 text-center">
        <div>
          <h1 className="mb-2 text-3xl font-bold">All of it is done</h1>
          <p className="mb-4 text-lg text-quiet">Look it over once more, and see what it has to teach.</p>
          <Link
            className="inline-flex min-h-14 items-center rounded-lg bg-accent px-6 text-lg font-semibold text-on-accent"
            to={buildAddress(info.id, "sum")}
          >
            To the sum-up
          </Link>
        </div>
      </main>
    );
  return <OneOperation key={op.id} op={op} awake={awake} />;
}

function OneOperation({ op, awake }: { op: Operation; awake: boolean }) {
  const fault = useFaultName();
  const { route, of, keeper, info, next } = useBuild();
  const { go } = useWhere();
  const say = useSay();
  const toast = useToast();
  const [telling, setTelling] = useState<Telling | null>(null);
  const state = of(op.id);
  const at = route.indexOf(op);
  const fields = useFields(op);
  const took = useTook(op);
  const step = (by: number) => {
    const to = route[at + by];
    if (to) go(to.id);
  };
  const finish = async () => {
    const sizes = fields.takeAll();
    if (!sizes) return;
    const minutes = took.take();
    const said = await keeper.write([...sizes, { op: op.id, kind: "done", ...(minutes === null ? {} : { minutes }) }]);
    const id = said.at(-1)?.id ?? "";
    fields.clear();
    took.clear();
    toast(`Done: ${say(op.title)}.`, () => {
      void keeper.write([{ op: op.id, kind: "voided", entry: id, why: "undone" }]);
      go(op.id);
    });
    const after =
      route.slice(at + 1).find((o) => of(o.id).standing === "open") ??
      route.find((o) => o !== op && of(o.id).standing === "open");
    go(after?.id ?? "");
  };
  const open = state.standing === "open";
  useKeys({
    " ": () => (open ? void finish() : step(1)),
    arrowleft: () => step(-1),
    arrowright: () => step(1),
    t: () => {
      const timer = op.timers.findIndex((_, i) => !(i in state.running));
      if (timer >= 0) void keeper.write([{ op: op.id, kind: "timer", timer, running: true }]);
    },
    ...Object.fromEntries([..."0123456789"].map((d) => [d, () => fields.begin(d)])),
  });
  return (
    <main className="flex min-h-0 flex-1 flex-col overflow-y-auto">
      <div className="mx-auto grid w-full max-w-[90rem] flex-1 content-start gap-x-8 gap-y-3 px-6 pt-3 pb-4 min-[900px]:grid-cols-[minmax(0,1fr)_minmax(20rem,27rem)] max-[900px]:px-4">
        <section aria-label="What to do" className="min-w-0">
          <Dots at={at} />
          <p className="mt-2 text-quiet">
            {at + 1} of {route.length}, {PLACES[op.place]}
            {op === next ? "" : open ? " · not its turn yet" : ""}
            {state.times > 1 ? ` · done ${state.times} times` : ""}
          </p>
          <h1 className="text-4xl leading-tight font-bold max-[900px]:text-3xl">{say(op.title)}</h1>
          <p className="mt-2 max-w-[46rem] text-[28px] leading-snug max-[900px]:text-2xl">{say(op.say)}</p>
          <HeatByHeat op={op} />
          {op.cautions.map((c) => (
            <p
              key={c}
              className="mt-3 flex max-w-[46rem] items-start gap-3 rounded-lg border-l-4 border-care bg-care-wash px-4 py-2 text-xl"
            >
              <CircleAlert size={24} aria-hidden className="mt-0.5 shrink-0 text-care" />
              <span>{say(c)}</span>
            </p>
          ))}
          <Checks op={op} />
          <Before op={op} />
        </section>
        <section aria-label="What to reach" className="flex min-w-0 flex-col gap-3">
          {state.standing === "done" ? (
            <p className="rounded-lg bg-note-wash px-4 py-2 text-lg">
              <b>Done.</b> {state.minutes !== null ? `Took ${Math.round(state.minutes)} min.` : ""}
            </p>
          ) : state.standing === "skipped" ? (
            <p className="rounded-lg bg-care-wash px-4 py-2 text-lg">
              <b>Skipped:</b> {state.why}
            </p>
          ) : state.why ? (
            <p className="rounded-lg bg-care-wash px-4 py-2 text-lg">
              <b>Once more:</b> {state.why}
            </p>
          ) : null}
          <ShortHere />
          <Fields op={op} fields={fields} />
          <TimerButtons op={op} />
          {op.kind === "sharpen" ? <EdgeTested op={op} /> : null}
          {op.odd ? <p className="rounded-lg bg-stop-wash px-4 py-2">{say(op.odd)}</p> : null}
          {op.follows ? (
            <section aria-label="What follows" className="rounded-lg border-l-4 border-note bg-note-wash px-4 py-2 text-lg">
              {say(op.follows)}
            </section>
          ) : null}
          <Photos photos={state.photos} />
          {state.notes.map((n) =>
            n.kind === "note" ? (
              <p key={n.id} className="border-l-4 border-line pl-3">
                {n.text}
              </p>
            ) : null,
          )}
          {state.faults.map((f) =>
            f.kind === "fault" ? (
              <p key={f.id} className="border-l-4 border-stop pl-3">
                Went wrong: {f.text || fault(f.fault ?? "")}
                {looksText(f.answers)}
              </p>
            ) : null,
          )}
        </section>
      </div>
      <footer className="sticky bottom-0 flex flex-wrap items-center gap-2 border-t border-line bg-panel px-6 py-2 max-[900px]:px-3">
        <Button label="The one before (left)" compact disabled={at === 0} onClick={() => step(-1)}>
          <ArrowLeft size={22} aria-hidden />
        </Button>
        <Button label="The one after (right)" compact disabled={at === route.length - 1} onClick={() => step(1)}>
          <ArrowRight size={22} aria-hidden />
        </Button>
        <Button onClick={() => setTelling("fault")}>
          <CircleAlert size={18} aria-hidden /> <span className="max-[560px]:sr-only">Went wrong</span>
        </Button>
        <Button onClick={() => setTelling("note")}>
          <NotebookPen size={18} aria-hidden /> <span className="max-[560px]:sr-only">Note</span>
        </Button>
        <PhotoButton op={op} />
        {open ? (
          <Button onClick={() => setTelling("skipped")}>
            <SkipForward size={18} aria-hidden /> <span className="max-[560px]:sr-only">Skip</span>
          </Button>
        ) : (
          <Button onClick={() => setTelling("redone")}>Once more</Button>
        )}
        {awake ? <span className="text-sm text-quiet max-[900px]:hidden">the screen stays lit</span> : null}
        {open ? (
          <span className="ml-auto flex items-center gap-3">
            {took.field}
            <button
              type="button"
              onClick={() => void finish()}
              className="inline-flex min-h-16 min-w-44 items-center justify-center gap-3 rounded-xl bg-accent px-8 text-2xl font-bold text-on-accent hover:brightness-110 max-[560px]:min-w-32 max-[560px]:px-4"
            >
              <CheckMark size={28} aria-hidden /> Done
            </button>
          </span>
        ) : (
          <Link
            to={buildAddress(info.id, "sheet", next?.id)}
            className="ml-auto inline-flex min-h-16 items-center rounded-xl border border-edge bg-well px-8 text-xl font-bold"
          >
            To what is next
          </Link>
        )}
      </footer>
      <TellDialog op={op} telling={telling} onClose={() => setTelling(null)} />
    </main>
  );
}

/** What is done in the heat that comes, large; the others to be looked up. */
function HeatByHeat({ op }: { op: Operation }) {
  const { of } = useBuild();
  const say = useSay();
  const done = of(op.id).measured.heats?.value ?? 0;
  const heats = op.targets.find((t) => t.quantity === "heats")?.now ?? op.by_heat.length;
  // a bar longer than the fire is even takes each turn one end after the other
  const each = Math.max(1, Math.round(heats / Math.max(1, op.by_heat.length)));
  const at = Math.min(Math.floor(done / each), op.by_heat.length - 1);
  const line = op.by_heat[at];
  if (!line) return op.lay_out ? <p className="mt-2 max-w-[46rem] text-lg">{say(op.lay_out)}</p> : null;
  return (
    <div className="mt-3 max-w-[46rem] rounded-lg border border-line bg-panel px-4 py-2">
      <p className="text-sm text-quiet">
        {each > 1
          ? `heats ${at * each + 1} to ${(at + 1) * each} of ${Math.round(heats)}, one length of the bar after the other, down to`
          : `heat ${at + 1} of ${op.by_heat.length}, down to`}
      </p>
      <p className="text-2xl leading-snug font-semibold">{say(line)}</p>
      <details className="mt-1 text-quiet">
        <summary className="min-h-11 cursor-pointer content-center">
          All heats{op.lay_out ? ", and the blocks to lay ready" : ""}
        </summary>
        <ol className="list-decimal pl-6 text-lg">
          {op.by_heat.map((h, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: heats may be alike
            <li key={i} className={i === at ? "font-semibold text-ink" : ""}>
              {say(h)}
            </li>
          ))}
        </ol>
        <p className="mt-1">{say(op.lay_out)}</p>
      </details>
    </div>
  );
}
