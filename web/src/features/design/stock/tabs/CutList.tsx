import { DndContext, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from "@dnd-kit/core";
import { Download, Lock, LockOpen, Printer } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, saveFile, whatWentWrong } from "../../../../api/client";
import type { CutBar, CutPlan, LaidBar } from "../../../../api/types";
import { useWorkedOut } from "../../../../api/worked";
import { Only, useGrams, useSay, useUnit } from "../../../../app/session";
import { length, lengthText, percent, sizes, UNIT_MARK } from "../../../../lib/units";
import { Button, Notice } from "../../../../ui";
import { useToast } from "../../../../ui/toast";
import { useRackChange } from "../../../rack/useRack";
import { Findings } from "../../Findings";
import { Measure } from "../../fields/Measure";
import { Columns, Shell } from "../../Panel";
import { useTable } from "../../table";
import { CutPaper } from "../CutPaper";
import { type BarKey, keyed, locked, moved } from "../laid";
import { useStock } from "../stock";

/** What to cut from which bar, drawn to scale; pieces go to another bar by dragging, or picked up and laid down. */
export function CutList() {
  const { design } = useTable();
  const { asked } = useStock();
  const [laid, setLaid] = useState<LaidBar[]>([]);
  const [kerf, setKerf] = useState<number | null>(null);
  const [held, setHeld] = useState<string | null>(null);
  const [past, setPast] = useState<LaidBar[][]>([]);
  const body = { ...asked, laid, kerf };
  const plan = useWorkedOut<CutPlan>(
    "cuts",
    body,
    (b, signal) => ask(api.POST("/api/stock/cuts", { body: b, signal })) as Promise<CutPlan>,
  );
  const wrong = plan.failure?.kind === "invalid" ? plan.failure.problems : [];
  const told = wrong.length ? null : plan.data;
  const lay = (next: LaidBar[]) => {
    setPast((p) => [...p.slice(-40), laid]);
    setLaid(next);
    setHeld(null);
  };
  const back = () => {
    setLaid(past.at(-1) ?? []);
    setPast(past.slice(0, -1));
  };
  const toast = useToast();
  return (
    <>
      {told ? <CutPaper plan={told} /> : null}
      <Columns
        name="Cut list"
        scrolls
        left={
          <Shell title="How it is cut">
            <Measure
              label="Saw takes"
              unit="mm"
              value={kerf}
              optional
              placeholder={told ? lengthText(told.kerf, "mm") : undefined}
              onChange={setKerf}
            />
            <div className="self-end text-sm text-quiet">at every cut</div>
            <p className="col-span-full">{told ? <Sum plan={told} /> : null}</p>
            <div className="col-span-full flex flex-wrap gap-2">
              <Button compact disabled={!past.length} onClick={back}>
                Undo
              </Button>
              <Button compact disabled={!laid.length} onClick={() => lay([])}>
                Lay out anew
              </Button>
              <Button
                compact
                label="Save the cut list as CSV"
                onClick={() => void saveFile("/api/stock/cuts.csv", body, "cut list.csv").catch((e) => toast(whatWentWrong(e)))}
              >
                <Download size={18} aria-hidden />
              </Button>
              <Button compact label="Print the cut list" onClick={() => window.print()}>
                <Printer size={18} aria-hidden />
              </Button>
            </div>
            {told ? (
              <Only needs="smith">
                <TakeIt plan={told} design={design.id} />
              </Only>
            ) : null}
            <p className="col-span-full text-sm text-quiet">
              Drag a piece to another bar; or choose it, and then the bar it shall come from. A locked bar stays as it is when the
              rest is laid out anew.
            </p>
          </Shell>
        }
        right={told ? <Buy plan={told} /> : <Findings findings={[]} problems={wrong} />}
      >
        {told ? (
          <Bars plan={told} laid={laid} held={held} onHold={setHeld} onLay={lay} />
        ) : wrong.length ? (
          <p className="m-auto max-w-md text-center text-quiet">
            What must be cut cannot be said yet: see at the right what stands in the way.
          </p>
        ) : (
          <p className="m-auto animate-pulse text-quiet">Laying it out…</p>
        )}
      </Columns>
    </>
  );
}

function Sum({ plan }: { plan: CutPlan }) {
  const grams = useGrams();
  const pieces = plan.bars.reduce((n, b) => n + b.cuts.length, 0);
  return (
    <>
      <b>
        {pieces} {pieces === 1 ? "piece" : "pieces"} from {plan.bars.length} {plan.bars.length === 1 ? "bar" : "bars"}
      </b>
      {plan.buy.length ? `, ${plan.buy.reduce((n, b) => n + b.pieces.length, 0)} to buy` : ""}. Of {grams(plan.used)} cut up{" "}
      {grams(plan.used - plan.waste, plan.used)} are in the pieces, {grams(plan.kept, plan.used)} go back into the rack.{" "}
      {plan.bars.some((b) => b.by_hand)
        ? "Partly laid out by hand."
        : plan.proven
          ? "Nothing better can be done with this rack."
          : `At most ${percent(plan.gap)} from the best there is.`}
    </>
  );
}

type BarsProps = {
  plan: CutPlan;
  laid: LaidBar[];
  held: string | null;
  onHold: (piece: string | null) => void;
  onLay: (laid: LaidBar[]) => void;
};

function Bars({ plan, held, onHold, onLay }: BarsProps) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const [open, setOpen] = useState(false);
  const bars = keyed(plan);
  const longest = Math.max(1, ...plan.bars.map((b) => b.length), ...(open ? plan.spare.map((b) => b.length) : []));
  const held_bars = new Set(bars.filter((b) => b.bar.by_hand).map((b) => b.key));
  const put = (piece: string, to: BarKey) => onLay(moved(plan, piece, to));
  const lock = (key: BarKey) =>
    onLay(locked(plan, new Set(held_bars.has(key) ? [...held_bars].filter((k) => k !== key) : [...held_bars, key])));
  if (!bars.length && !plan.spare.length)
    return (
      <div className="m-auto max-w-md text-center">
        <p className="mb-2 font-bold">Nothing in the rack serves this design.</p>
        <p className="text-quiet">
          At the right is all that must be bought. What lies in your shop is entered in the{" "}
          <Link className="underline" to="/rack">
            rack
          </Link>
          .
        </p>
      </div>
    );
  return (
    <DndContext
      sensors={sensors}
      onDragEnd={(e) => {
        if (e.over) put(String(e.active.id), String(e.over.id));
      }}
    >
      <ul className="flex flex-col gap-3" aria-label="Bars to cut">
        {bars.map(({ key, bar }) => (
          <Bar
            key={key}
            id={key}
            bar={bar}
            longest={longest}
            held={held}
            onHold={onHold}
            onLay={() => held && put(held, key)}
            onLock={() => lock(key)}
          />
        ))}
      </ul>
      {plan.spare.length ? (
        <section aria-label="Other bars that would serve" className="no-print">
          <button
            type="button"
            className="min-h-11 text-sm text-quiet underline"
            onClick={() => setOpen(!open)}
            aria-expanded={open}
          >
            {plan.spare.length} other {plan.spare.length === 1 ? "bar" : "bars"} of the rack would serve a piece
          </button>
          {open ? (
            <ul className="flex flex-col gap-3">
              {plan.spare.map((bar) => (
                <Bar
                  key={bar.code}
                  id={`${bar.code}#new`}
                  bar={bar}
                  longest={longest}
                  held={held}
                  onHold={onHold}
                  onLay={() => held && put(held, `${bar.code}#new`)}
                />
              ))}
            </ul>
          ) : null}
        </section>
      ) : null}
    </DndContext>
  );
}

function Bar({
  id,
  bar,
  longest,
  held,
  onHold,
  onLay,
  onLock,
}: {
  id: BarKey;
  bar: CutBar;
  longest: number;
  held: string | null;
  onHold: (piece: string | null) => void;
  onLay: () => void;
  onLock?: () => void;
}) {
  const unit = useUnit();
  const say = useSay();
  const { setNodeRef, isOver } = useDroppable({ id });
  const whole = Math.max(
    bar.length,
    bar.cuts.reduce((sum, c) => sum + c.length, 0),
  );
  const mine = bar.cuts.some((c) => c.piece === held);
  return (
    <li ref={setNodeRef} className={`rounded-lg border p-2 ${bar.wrong ? "border-stop" : isOver ? "border-ink" : "border-line"}`}>
      <div className="mb-1 flex items-center gap-3">
        <span className="min-w-0 flex-1">
          <b className="font-mono">{bar.code}</b> {bar.steel}, {bar.form} {sizes([bar.width, bar.thickness, bar.length], unit)}
        </span>
        {held && !mine ? (
          <Button compact onClick={onLay}>
            Lay it here
          </Button>
        ) : null}
        {onLock ? (
          <Button
            kind="quiet"
            compact
            label={bar.by_hand ? `Let ${bar.code} go` : `Lock ${bar.code} as it is`}
            pressed={bar.by_hand}
            onClick={onLock}
          >
            {bar.by_hand ? <Lock size={16} aria-hidden /> : <LockOpen size={16} aria-hidden />}
          </Button>
        ) : null}
      </div>
      <div className="flex h-11 overflow-hidden rounded" style={{ width: `${Math.max(8, (100 * whole) / longest)}%` }}>
        {bar.cuts.map((c, i) => (
          <Piece
            key={c.piece}
            piece={c.piece}
            says={c.says}
            how={say(c.how)}
            mm={c.length}
            whole={whole}
            odd={i % 2 === 1}
            held={held === c.piece}
            onHold={() => onHold(held === c.piece ? null : c.piece)}
          />
        ))}
        {bar.left > 0.5 ? (
          <span
            className={`grid min-w-0 flex-1 place-items-center overflow-hidden border border-dashed text-sm whitespace-nowrap ${bar.keep ? "border-note bg-note-wash" : "border-care bg-care-wash"}`}
            title={bar.keep ? "worth keeping" : "too short to keep"}
          >
            {bar.left > 0.12 * longest ? `${length(bar.left, unit)} ${bar.keep ? "kept" : "left"}` : ""}
          </span>
        ) : null}
      </div>
      {bar.wrong ? <p className="mt-1 text-sm text-stop">{say(bar.wrong)}.</p> : null}
      {bar.cuts.some((c) => c.how) ? (
        <p className="mt-1 text-sm text-quiet">
          {[...new Set(bar.cuts.map((c) => c.how).filter(Boolean))].map((h) => say(h)).join("; ")}
        </p>
      ) : null}
    </li>
  );
}

function Piece({
  piece,
  says,
  how,
  mm,
  whole,
  odd,
  held,
  onHold,
}: {
  piece: string;
  says: string;
  how: string;
  mm: number;
  whole: number;
  odd: boolean;
  held: boolean;
  onHold: () => void;
}) {
  const unit = useUnit();
  const { setNodeRef, listeners, attributes, transform } = useDraggable({ id: piece });
  return (
    <button
      ref={setNodeRef}
      {...listeners}
      {...attributes}
      type="button"
      aria-pressed={held}
      onClick={onHold}
      title={[says, length(mm, unit), how].filter(Boolean).join(", ")}
      className={`min-w-0 touch-none overflow-hidden border-r-2 border-panel px-1 text-center text-xs leading-tight whitespace-nowrap ${held ? "bg-accent text-on-accent" : odd ? "bg-[#6f6b64] text-white" : "bg-[#57534d] text-white"}`}
      style={{
        width: `${(100 * mm) / whole}%`,
        transform: transform ? `translate(${transform.x}px, ${transform.y}px)` : undefined,
        zIndex: transform ? 10 : undefined,
        position: transform ? "relative" : undefined,
      }}
    >
      <span aria-hidden>
        {says.replace("layer ", "").replace("bar ", "")}
        <span className="block font-mono">{lengthText(mm, unit)}</span>
      </span>
      <span className="sr-only">
        {says}, {length(mm, unit)}
      </span>
    </button>
  );
}

function Buy({ plan }: { plan: CutPlan }) {
  const unit = useUnit();
  const grams = useGrams();
  const say = useSay();
  const { document, change, undo } = useTable();
  const toast = useToast();
  const takeOver = (b: CutPlan["buy"][number]) =>
    ask(api.POST("/api/stock/in-sheets", { body: { document, wanted: b.wanted, count: b.sheets, sheet: b.sheet } }))
      .then((made) => {
        change({ type: "document", document: made.document });
        toast(`Piled so: ${say(b.instead)}. The faces show what that does.`, undo);
      })
      .catch((e) => toast(whatWentWrong(e)));
  const money = plan.buy.reduce((sum, b) => sum + (b.money ?? 0), 0);
  return (
    <>
      <section aria-label="What to buy">
        <h3 className="mb-1 font-bold">{plan.buy.length ? "To buy" : "Nothing to buy"}</h3>
        {plan.buy.length ? null : <p className="text-quiet">The rack has it all.</p>}
        <ul>
          {plan.buy.map((b) => (
            <li key={`${b.steel}${b.form}${b.width}${b.thickness}`} className="border-t border-line py-1.5">
              <p>
                <b>{b.steel}</b>, {b.form} {sizes(b.form === "round" ? [b.width] : [b.width, b.thickness], unit)}:{" "}
                <b className="font-mono">{length(b.length, unit)}</b>
              </p>
              <p className="text-sm text-quiet">
                {b.pieces.length} × {[...new Set(b.pieces.map((p) => lengthText(p, unit)))].join(", ")} {UNIT_MARK[unit]},{" "}
                {grams(b.mass)}
                {b.money !== null ? `, about ${b.money.toFixed(2)}` : ", price not known"}
              </p>
              {b.instead ? (
                <p className="text-sm">
                  The rack offers instead: {say(b.instead)}.{" "}
                  <button type="button" className="min-h-11 underline" onClick={() => void takeOver(b)}>
                    Pile it so
                  </button>
                </p>
              ) : null}
            </li>
          ))}
        </ul>
        {money ? (
          <p className="border-t border-line pt-1 font-semibold">About {money.toFixed(2)} by your prices a kilogram</p>
        ) : null}
      </section>
      {plan.others.length ? (
        <section aria-label="What else goes in">
          <h3 className="mb-1 font-bold">What else goes in</h3>
          <ul>
            {plan.others.map((o) => (
              <li key={o.says} className="border-t border-line py-1">
                {o.count > 1 ? `${o.count} × ` : ""}
                {say(o.says)}
                {o.steel ? ` of ${o.steel}` : ""}
                {o.grams ? `, ${grams(o.grams)}` : ""}
                {o.there === null ? (
                  ""
                ) : o.there ? (
                  <span className="text-quiet">: in the rack</span>
                ) : (
                  <span className="text-care">: not in the rack</span>
                )}
              </li>
            ))}
          </ul>
        </section>
      ) : null}
    </>
  );
}

/** Writes the movements: the bars leave the rack, what is worth keeping comes back as bars of their own. */
function TakeIt({ plan, design }: { plan: CutPlan; design: number }) {
  const toast = useToast();
  const change = useRackChange();
  const [busy, setBusy] = useState(false);
  const bad = plan.bars.some((b) => b.wrong);
  const take = () => {
    const takes: Record<string, number> = {};
    for (const b of plan.bars) takes[b.item] = (takes[b.item] ?? 0) + 1;
    const keep = plan.bars.filter((b) => b.keep).map((b) => ({ item: b.item, length: Math.round(b.left * 10) / 10, count: 1 }));
    setBusy(true);
    ask(api.POST("/api/rack/take", { body: { design, takes, keep } }))
      .then(async ({ act }) => {
        await change(ask(api.GET("/api/rack")));
        toast(
          "Taken out of the rack for this design.",
          () => void change(ask(api.POST("/api/rack/acts/{act}/put-back", { params: { path: { act } } })), "Put back."),
        );
      })
      .catch((e) => toast(whatWentWrong(e)))
      .finally(() => setBusy(false));
  };
  return (
    <div className="col-span-full flex flex-col gap-1">
      <Button kind="main" disabled={!plan.bars.length || bad || busy} onClick={take}>
        Take it out of the rack
      </Button>
      {bad ? <Notice tone="stop">One bar cannot be cut as it is laid out.</Notice> : null}
    </div>
  );
}
