import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, saveFile, whatWentWrong } from "../../../api/client";
import type { FinishPlan, SumItem } from "../../../api/types";
import { useWorkedOut } from "../../../api/worked";
import { useGrams, useSay, useUnit } from "../../../app/session";
import { length } from "../../../lib/units";
import { Button, Choice, Notice, Segments, Toggle } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { usualPaper } from "../../build/paper";
import { Measure } from "../fields/Measure";
import { MeasureRows } from "../fields/MeasureRows";
import { Columns, Shell } from "../Panel";
import { OneSum } from "../Sums";
import { useTable } from "../table";
import { useFinish } from "./finish";

/** The checklist of the last bench, its sums, and the balance solved for any of its numbers. */
export function FitUpTab() {
  const { asked, sheet } = useFinish();
  const say = useSay();
  const sums = useWorkedOut<SumItem[]>("fit-up-sums", { document: asked.document }, (body, signal) =>
    ask(api.POST("/api/finish/sums", { body, signal })),
  );
  return (
    <Columns
      name="Fit up"
      scrolls
      left={
        <section
          aria-label="Fitted and balanced"
          // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
          tabIndex={0}
          className="min-h-0 flex-1 overflow-y-auto max-[1100px]:overflow-visible"
        >
          <Fitted />
          <Balance />
        </section>
      }
      right={
        <section aria-label="Checklist">
          <h3 className="mb-1 text-lg font-bold">In this order</h3>
          <ol className="list-decimal space-y-1 pl-5">
            {(sheet.data?.fit_up ?? []).map((l) => (
              <li key={l}>{say(l)}</li>
            ))}
          </ol>
          <p className="mt-3 text-sm text-quiet">
            Hole places lie on the 1:1 drawing: print it from Build. Dust of many woods, horn and glue hurts the lungs: a mask.
          </p>
        </section>
      }
    >
      <h3 className="text-lg font-bold">Sums</h3>
      <div className="grid grid-cols-2 items-start gap-3 max-[1300px]:grid-cols-1">
        {(sums.data ?? []).map((s) => (
          <OneSum key={s.key} sum={s} onUse={() => undefined} />
        ))}
      </div>
    </Columns>
  );
}

type FitUp = Required<NonNullable<FinishPlan["fit_up"]>>;
const USUAL: FitUp = { pins: "none", colour: "none", coat: "oil", coats: 0, sheath: "none", leather: 3, seam: 6, welt: 4 };
const PINS: { value: FitUp["pins"]; label: string }[] = [
  { value: "none", label: "none" },
  { value: "glued", label: "glued" },
  { value: "peened", label: "peened" },
];
const COLOURS: { value: FitUp["colour"]; label: string; hint?: string }[] = [
  { value: "none", label: "bright" },
  { value: "straw", label: "straw" },
  { value: "brown", label: "brown" },
  { value: "purple", label: "purple" },
  { value: "blue", label: "dark blue" },
];
const COATS: { value: FitUp["coat"]; label: string }[] = [
  { value: "oil", label: "oil" },
  { value: "lacquer", label: "lacquer" },
  { value: "wax", label: "wax" },
];

/** What is fitted: each becomes an operation of the build, with its minutes and its days of drying. */
function Fitted() {
  const { plan, put, asked } = useFinish();
  const { name } = useTable();
  const toast = useToast();
  const own: FitUp = { ...USUAL, ...plan.fit_up };
  const set = (next: Partial<FitUp>, what: string) => put({ fit_up: { ...own, ...next } }, `fit_up.${what}`);
  const sheath = () =>
    saveFile(
      "/api/paper/sheath.pdf",
      { document: asked.document, title: name, paper: usualPaper(navigator.language) },
      `${name} sheath 1-1.pdf`,
    ).catch((e) => toast(whatWentWrong(e)));
  return (
    <Shell title="What is fitted" about="Each becomes an operation of the build, with its minutes and its drying.">
      <div className="col-span-full">
        <Segments snug titled label="Pins" value={own.pins} options={PINS} onChange={(pins) => set({ pins }, "pins")} />
      </div>
      <div className="col-span-full">
        <Choice
          titled
          label="Fittings coloured"
          value={own.colour}
          options={COLOURS}
          onChange={(colour) => set({ colour }, "colour")}
        />
      </div>
      <div>
        <Choice titled label="Handle coated with" value={own.coat} options={COATS} onChange={(coat) => set({ coat }, "coat")} />
      </div>
      <Measure
        label="Coats"
        unit=""
        whole
        value={own.coats}
        max={12}
        onChange={(v) => set({ coats: Math.min(12, v ?? 0) }, "coats")}
      />
      <div className="col-span-full">
        <Toggle
          label="A leather sheath, folded over the spine"
          checked={own.sheath === "leather"}
          onChange={(on) => set({ sheath: on ? "leather" : "none" }, "sheath")}
        />
      </div>
      {own.sheath === "leather" ? (
        <>
          <MeasureRows
            of={own}
            put={set}
            rows={[
              { name: "leather", label: "Leather", unit: "mm", usual: 3, least: 0.8, most: 6 },
              { name: "welt", label: "Welt", unit: "mm", usual: 4, least: 0, most: 15 },
              { name: "seam", label: "Seam", unit: "mm", usual: 6, least: 3, most: 20 },
            ]}
          />
          <span className="self-end">
            <Button onClick={() => void sheath()}>Sheath 1:1, PDF</Button>
          </span>
        </>
      ) : null}
    </Shell>
  );
}

type Unknown = "handle" | "guard" | "pommel" | "holes";
const WHAT: { value: Unknown | "none"; label: string }[] = [
  { value: "none", label: "nothing: only where it is" },
  { value: "handle", label: "the handle's length" },
  { value: "guard", label: "the guard" },
  { value: "pommel", label: "the pommel" },
  { value: "holes", label: "holes through the tang" },
];

function Balance() {
  const { asked } = useFinish();
  const unit = useUnit();
  const grams = useGrams();
  const [fit, setFit] = useState({ guard: 30, pommel: 0, holes: 0, hole: 6 });
  const [wanted, setWanted] = useState<number | null>(0);
  const [unknown, setUnknown] = useState<Unknown | "none">("none");
  const body = {
    document: asked.document as never,
    fittings: fit,
    ...(unknown === "none" ? {} : { wanted: wanted ?? 0, unknown }),
  };
  const found = useQuery({
    queryKey: ["balance", JSON.stringify(body)],
    queryFn: () => ask(api.POST("/api/finish/balance", { body })),
    placeholderData: (old) => old,
    retry: false,
  });
  const told = found.error ? null : found.data;
  const set = (name: keyof typeof fit) => (v: number | null) => setFit({ ...fit, [name]: v ?? 0 });
  return (
    <Shell title="Balance" about="The handle's size is set under Blade, in Design.">
      {unknown === "guard" ? null : <Measure label="Guard" unit="g" value={fit.guard} max={400} onChange={set("guard")} />}
      {unknown === "pommel" ? null : <Measure label="Pommel" unit="g" value={fit.pommel} max={600} onChange={set("pommel")} />}
      {unknown === "holes" ? null : (
        <Measure label="Holes in the tang" unit="" whole value={fit.holes} max={12} onChange={set("holes")} />
      )}
      <Measure label="Each" unit="mm" value={fit.hole} onChange={set("hole")} />
      <div className="col-span-full">
        <Choice titled label="It is to be put right by" value={unknown} options={WHAT} onChange={setUnknown} />
      </div>
      {unknown === "none" ? null : (
        <Measure
          label="Balance wanted, from the heel"
          unit="mm"
          value={wanted}
          min={-400}
          hint="+ towards the tip"
          onChange={setWanted}
        />
      )}
      {found.error ? (
        <div className="col-span-full">
          <Notice tone="care">{whatWentWrong(found.error)}</Notice>
        </div>
      ) : null}
      {told ? (
        <p className="col-span-full">
          {told.value !== null && told.value !== undefined ? (
            <>
              It wants{" "}
              <b>
                {told.unit === "mm"
                  ? length(told.value, unit)
                  : told.unit === "g"
                    ? grams(told.value)
                    : `${told.value.toFixed(1)} holes`}
              </b>
              .{" "}
            </>
          ) : null}
          Balance <b>{length(Math.abs(told.point), unit)}</b> {told.point >= 0 ? "before" : "behind"} the heel, {grams(told.mass)}{" "}
          in all.
        </p>
      ) : null}
    </Shell>
  );
}
