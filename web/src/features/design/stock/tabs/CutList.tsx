import { FileSpreadsheet, PencilRuler, Printer, RotateCcw, Undo2 } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, keepFile, saveFile, whatWentWrong } from "../../../../api/client";
import type { CutPlan, LaidBar, StockSheet } from "../../../../api/types";
import { useWorkedOut } from "../../../../api/worked";
import { Only, useGrams, useUnit } from "../../../../app/session";
import { length, lengthText } from "../../../../lib/units";
import { Button, Notice } from "../../../../ui";
import { useToast } from "../../../../ui/toast";
import { useRackChange } from "../../../rack/useRack";
import { Findings } from "../../Findings";
import { Measure } from "../../fields/Measure";
import { LaidAside, useAsideChanged, useLaidAside } from "../../LaidAside";
import { Columns, Shell } from "../../Panel";
import { useTable } from "../../table";
import { CutBars } from "../CutBars";
import { CutBuy } from "../CutBuy";
import { CutPaper, useCutDrawing } from "../CutPaper";
import { Fittings } from "../Fittings";
import { useStock } from "../stock";

/** What to cut from which bar, drawn to scale; pieces go to another bar by dragging, or picked up and laid down. */
export function CutList() {
  const { design } = useTable();
  const { asked, sheet } = useStock();
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
  const drawing = useCutDrawing();
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
            <Piled sheet={sheet.data ?? null} />
            <div className="col-span-full flex flex-wrap gap-1.5">
              <Button compact label="Undo the laying out" disabled={!past.length} onClick={back}>
                <Undo2 size={18} aria-hidden />
              </Button>
              <Button compact label="Lay out anew" disabled={!laid.length} onClick={() => lay([])}>
                <RotateCcw size={18} aria-hidden />
              </Button>
              <Button
                compact
                label="Save the cut list as CSV"
                onClick={() => void saveFile("/api/stock/cuts.csv", body, "cut list.csv").catch((e) => toast(whatWentWrong(e)))}
              >
                <FileSpreadsheet size={18} aria-hidden />
              </Button>
              <Button
                compact
                label="Save the drawing as SVG"
                disabled={!told?.bars.length}
                onClick={() => told && keepFile(new Blob([drawing(told)], { type: "image/svg+xml" }), "cut list.svg")}
              >
                <PencilRuler size={18} aria-hidden />
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
        right={
          told ? (
            <>
              <CutBuy plan={told} />
              <Fittings />
            </>
          ) : (
            <Findings findings={[]} problems={wrong} />
          )
        }
      >
        {told ? (
          <CutBars plan={told} held={held} onHold={setHeld} onLay={lay} />
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

/** Pieces are cut as long as the piles are in the design: whether that is as long as they must be. */
function Piled({ sheet }: { sheet: StockSheet | null }) {
  const { design } = useTable();
  const unit = useUnit();
  const short = (sheet?.piles ?? []).filter((p) => p.has < p.needs - 0.01);
  const long = (sheet?.piles ?? []).filter((p) => p.has > p.cut + 0.01);
  const [one] = short.length ? short : long;
  if (!one) return null;
  return (
    <div className="col-span-full">
      <Notice tone={short.length ? "stop" : "note"}>
        {short.length > 1 || (!short.length && long.length > 1)
          ? `${short.length || long.length} piles are ${short.length ? "shorter" : "longer"} than they must be.`
          : short.length
            ? `The pile is ${length(one.has, unit)} long and must be ${length(one.needs, unit)}.`
            : `The pile is ${length(one.has, unit)} long; ${length(one.cut, unit)} would do.`}{" "}
        <Link className="underline" to={`/design/${design.id}/stock/piles`}>
          Change it in Piles
        </Link>
      </Notice>
    </div>
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
          ? "No other way buys less from outside, takes less work, and then uses up less steel."
          : "There may be a better way: it was not looked for to the end."}
    </>
  );
}

/** Writes the movements: the bars leave the rack, what is worth keeping comes back as bars of their own. */
function TakeIt({ plan, design }: { plan: CutPlan; design: number }) {
  const toast = useToast();
  const change = useRackChange();
  const changed = useAsideChanged();
  const aside = useLaidAside(design).data ?? [];
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
          () =>
            void change(ask(api.POST("/api/rack/acts/{act}/put-back", { params: { path: { act } } })), "Put back.").finally(
              changed,
            ),
        );
      })
      .catch((e) => toast(whatWentWrong(e)))
      .finally(() => {
        changed();
        setBusy(false);
      });
  };
  return (
    <div className="col-span-full flex flex-col gap-1">
      <LaidAside aside={aside} />
      <Button kind={aside.length ? "plain" : "main"} disabled={!plan.bars.length || bad || busy} onClick={take}>
        {aside.length ? "Take more out of the rack" : "Take it out of the rack"}
      </Button>
      {bad ? <Notice tone="stop">One bar cannot be cut as it is laid out.</Notice> : null}
    </div>
  );
}
