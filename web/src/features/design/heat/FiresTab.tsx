import { useState } from "react";
import { Link } from "react-router";
import type { Document, Fire, Fired, FireSheet, ProblemItem } from "../../../api/types";
import { useDegrees, useGrams, useSay, useUnit } from "../../../app/session";
import { degrees, hair, length, percent, sizes, temperature, thickness, UNIT_MARK } from "../../../lib/units";
import { Button, Choice, Notice } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { numberOf } from "../bars";
import type { Change } from "../draft";
import { Findings } from "../Findings";
import { MeasureRows } from "../fields/MeasureRows";
import { FLOW } from "../flow";
import { Shell } from "../Panel";
import { ScaleCounted } from "../ScaleCounted";
import { glowOf } from "./glow";
import { pathOf, saidOf, withHeats, withoutScale } from "./plan";
import { EVEN, GAS, TOOLS } from "./words";

type Props = { document: Document; sheet: FireSheet; problems: ProblemItem[]; change: (c: Change) => void; undo: () => void };

/** Every step that goes into the fire: how often, how hot, how long; what it takes off and leaves behind. */
export function FiresTab({ document, sheet, problems, change, undo }: Props) {
  const [picked, setPicked] = useState("");
  const keyOf = (f: Fired) => f.step;
  const chosen = sheet.steps.find((f) => keyOf(f) === picked) ?? sheet.steps.find((f) => f.findings.length) ?? sheet.steps[0];
  return (
    <div className={`${FLOW.grid} grid-cols-[17rem_minmax(0,1fr)_21rem] max-[1100px]:grid-cols-[17rem_minmax(0,1fr)]`}>
      <div className={`no-print flex min-h-0 flex-col border-r border-line ${FLOW.left}`}>
        <Shell title="Your fire">
          <Usual document={document} sheet={sheet} problems={problems} change={change} />
        </Shell>
      </div>
      <section
        aria-label="Heats of every step"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
        tabIndex={0}
        className={`min-h-0 min-w-0 overflow-auto px-3 pb-3 max-[1100px]:overflow-y-visible`}
      >
        {sheet.steps.length ? (
          <FireTable document={document} sheet={sheet} chosen={chosen ? keyOf(chosen) : ""} keyOf={keyOf} onChoose={setPicked} />
        ) : (
          <p className="p-6 text-center text-quiet">Nothing in this design goes into the fire yet. Weld or draw it in Design.</p>
        )}
        <Totals document={document} sheet={sheet} change={change} undo={undo} />
        {chosen?.passes.length ? <Passes title={chosen.title} passes={chosen.passes} /> : null}
      </section>
      <aside
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
        tabIndex={0}
        aria-label="The chosen step"
        className={`min-h-0 overflow-y-auto p-3 ${FLOW.right}`}
      >
        {chosen ? <OneStep key={keyOf(chosen)} document={document} fired={chosen} problems={problems} change={change} /> : null}
      </aside>
    </div>
  );
}

function Usual({ document, sheet, problems, change }: Pick<Props, "document" | "sheet" | "problems" | "change">) {
  const wrong = (name: string) => problems.find((p) => p.path === `fire.${name}`)?.cure;
  const heat = useDegrees();
  const fire: Partial<Fire> = document.fire ?? {};
  const put = (next: Partial<Fire>, what: string) =>
    change({ type: "plan", plan: { fire: { ...fire, ...next } as Fire }, what: `fire.${what}` });
  return (
    <>
      <MeasureRows<Fire>
        of={fire}
        put={put}
        wrong={wrong}
        rows={(["weld", "forge"] as const).map((name) => ({
          name,
          label: name === "weld" ? "Weld at" : "Forge at",
          unit: "C",
          placeholder: degrees(sheet[name], heat),
          hint: fire[name] ? "yours" : "suits the steels",
        }))}
      />
      <div className="col-span-full">
        <Choice
          titled
          label="The fire is"
          value={fire.gas ?? "neutral"}
          options={(Object.keys(GAS) as (keyof typeof GAS)[]).map((value) => ({ value, label: GAS[value] }))}
          onChange={(gas) => put({ gas }, "gas")}
        />
      </div>
      <div className="col-span-full">
        <Choice
          titled
          label="Drawn out under"
          value={fire.tool ?? "press"}
          options={(Object.keys(TOOLS) as (keyof typeof TOOLS)[]).map((value) => ({ value, label: TOOLS[value] }))}
          onChange={(tool) => put({ tool }, "tool")}
        />
      </div>
      {sheet.steels.length > 1 ? (
        <p className="col-span-full">
          <Link
            className="underline underline-offset-4"
            to={`/pairing?steels=${sheet.steels
              .map((s) => s.key)
              .slice(0, 6)
              .join(",")}`}
          >
            How its steels go together
          </Link>
        </p>
      ) : null}
      <p className="col-span-full text-sm text-quiet">
        Its force, the length your fire heats, how fast it heats and scales: put in your own under Steels, Numbers of your shop.
      </p>
      <p className="col-span-full text-sm text-quiet">
        Gas fires make carbon monoxide: ventilate, keep an alarm. Never heat galvanised steel. Local rules come first.
      </p>
    </>
  );
}

function FireTable({
  document,
  sheet,
  chosen,
  keyOf,
  onChoose,
}: {
  document: Document;
  sheet: FireSheet;
  chosen: string;
  keyOf: (f: Fired) => string;
  onChoose: (key: string) => void;
}) {
  const unit = useUnit();
  const heat = useDegrees();
  const bars = new Set(sheet.steps.map((f) => f.bar)).size > 1;
  return (
    <table className="w-full text-left whitespace-nowrap">
      <thead className="sticky top-0 z-10 bg-panel text-sm text-quiet">
        <tr className="border-b border-line">
          <th className="py-2 pr-2 font-normal">Step</th>
          <th className="pr-2 text-right font-normal">Heats</th>
          <th className="pr-2 text-right font-normal">°{heat}</th>
          <th className="pr-2 text-right font-normal">min at heat</th>
          <th className="pr-2 text-right font-normal">Scale, {UNIT_MARK[unit]}</th>
          <th className="pr-5 text-right font-normal">Skin, {UNIT_MARK[unit]}</th>
          <th className="font-normal">Carbon</th>
        </tr>
      </thead>
      <tbody>
        {sheet.steps.map((f) => {
          const on = keyOf(f) === chosen;
          const worst = f.findings.some((x) => x.grade === "stop") ? "■" : f.findings.some((x) => x.grade === "care") ? "◆" : "";
          return (
            <tr key={keyOf(f)} className={`border-b border-line ${on ? "bg-note-wash" : ""}`}>
              <td className="py-0 pr-2">
                <button
                  type="button"
                  aria-pressed={on}
                  onClick={() => onChoose(keyOf(f))}
                  className={`flex min-h-11 w-full items-center gap-2 text-left ${on ? "font-semibold" : ""}`}
                >
                  <span
                    aria-hidden
                    className="h-5 w-5 shrink-0 rounded-full border border-edge"
                    style={{ background: f.heats ? glowOf(f.celsius) : "transparent" }}
                  />
                  {bars && numberOf(document, f.bar) ? (
                    <span className="text-sm text-quiet">bar {numberOf(document, f.bar)}</span>
                  ) : null}
                  {f.title}
                  {worst ? (
                    <span className={worst === "■" ? "text-stop" : "text-care"} title="Something to be careful of">
                      {worst}
                    </span>
                  ) : null}
                </button>
              </td>
              <td className="pr-2 text-right font-mono">{f.heats || "–"}</td>
              <td className="pr-2 text-right font-mono">{f.heats ? degrees(f.celsius, heat) : "–"}</td>
              <td className="pr-2 text-right font-mono">{f.heats ? f.minutes.toFixed(0) : "–"}</td>
              <td className="pr-2 text-right font-mono">{f.heats ? hair(f.scale, unit) : "–"}</td>
              <td className="pr-5 text-right font-mono">{hair(f.skin, unit)}</td>
              <td className="text-sm text-quiet">{EVEN[f.even]}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function Totals({ document, sheet, change, undo }: Pick<Props, "document" | "sheet" | "change" | "undo">) {
  const grams = useGrams();
  const toast = useToast();
  const hot = sheet.steps.filter((f) => f.heats);
  if (!hot.length) return null;
  const none = () => {
    change({ type: "document", document: withoutScale(document, hot) });
    toast("No step counts scale any more: the ledger and Stock reckon without it.", undo);
  };
  return (
    <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
      <p>
        <strong>{sheet.heats} heats</strong>, about {sheet.hours.toFixed(1)} h in the fire. Scale takes{" "}
        <strong>
          {grams(sheet.scale_mass)}, {percent(sheet.scale_share)}
        </strong>{" "}
        of what you put in. <span className="text-quiet">Indicative, a factor of 1.5.</span>
      </p>
      <ScaleCounted counted={sheet.counted} />
      {sheet.steps.some((f) => f.scale_now > 0) ? <Button onClick={none}>Count no scale</Button> : null}
    </div>
  );
}

function OneStep({
  document,
  fired,
  problems,
  change,
}: {
  document: Document;
  fired: Fired;
  problems: ProblemItem[];
  change: (c: Change) => void;
}) {
  const grams = useGrams();
  const say = useSay();
  const unit = useUnit();
  const heat = useDegrees();
  const at = fired.step;
  const said = saidOf(document, at);
  const put = (next: Parameters<typeof withHeats>[2], what: string) =>
    change({ type: "plan", plan: { fire: withHeats(document, at, next) }, what: `fire.${at}.${what}` });
  const mine = (name: string) => (fired.own.includes(name) ? "yours" : "worked out");
  const wrong = (name: string) => problems.find((p) => p.path === `${pathOf(document, at)}.${name}`)?.cure;
  return (
    <>
      <h3 className="mb-1 text-lg font-bold">{fired.title}</h3>
      {fired.heats ? (
        <p className="mb-2">
          {fired.heats} {fired.heats === 1 ? "heat" : "heats"}
          {fired.each !== fired.heats ? ` (${fired.each} at any one place)` : ""} at {temperature(fired.celsius, heat)}
          {fired.glow ? `, ${fired.glow}` : ""}. From cold it is {(fired.soak + fired.minutes).toFixed(0)} min in the fire: about{" "}
          {fired.soak.toFixed(0)} until the middle is hot, then {fired.minutes.toFixed(0)} at heat.
        </p>
      ) : (
        <p className="mb-2 text-quiet">No heat of its own: it is welded in the next step.</p>
      )}
      <div className="mb-3 grid grid-cols-2 gap-x-3 gap-y-2">
        <MeasureRows<ReturnType<typeof saidOf>>
          of={said}
          put={put}
          wrong={wrong}
          rows={[
            {
              name: "heats",
              label: "Heats",
              unit: "",
              whole: true,
              max: 60,
              placeholder: String(fired.heats),
              hint: mine("heats"),
            },
            { name: "celsius", label: "Heat", unit: "C", placeholder: degrees(fired.celsius, heat), hint: mine("celsius") },
            {
              name: "minutes",
              label: "At heat, each",
              unit: "min",
              placeholder: fired.minutes.toFixed(1),
              hint: mine("minutes"),
            },
          ]}
        />
        <div>
          <Choice
            titled
            label="Faces meet"
            value={said.atmosphere ?? "auto"}
            options={[
              { value: "auto" as const, label: `${GAS[fired.atmosphere]} (worked out)`, short: GAS[fired.atmosphere] },
              ...(Object.keys(GAS) as (keyof typeof GAS)[]).map((value) => ({ value, label: GAS[value] })),
            ]}
            onChange={(a) => put({ atmosphere: a === "auto" ? null : a }, "atmosphere")}
          />
        </div>
      </div>
      <dl className="mb-3 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
        <dt className="text-quiet">Scale</dt>
        <dd>
          {length(fired.scale, unit)} off every face, {grams(fired.scale_mass)}
        </dd>
        <dt className="text-quiet">Carbon-poor skin</dt>
        <dd>{length(fired.skin, unit)} deep then</dd>
        <dt className="text-quiet">Before a weld</dt>
        <dd>grind {length(fired.grind, unit)} off each face</dd>
        {fired.spread ? (
          <>
            <dt className="text-quiet">Left free</dt>
            <dd>
              it would spread to {length(fired.spread[0] ?? 0, unit)} wide under {length(fired.spread[1] ?? 0, unit)} dies or
              rolls
            </dd>
          </>
        ) : null}
        <dt className="text-quiet">Layers</dt>
        <dd>
          {fired.layers}, the thinnest {thickness(fired.thinnest, unit)}
        </dd>
      </dl>
      <Findings findings={fired.findings} problems={[]} />
      {fired.caution ? (
        <div className="mt-3">
          <Notice tone="care">{say(fired.caution)}</Notice>
        </div>
      ) : null}
    </>
  );
}

const LAID: Record<Fired["passes"][number]["laid"], string> = {
  flat: "flat",
  edge: "on edge",
  along: "flat, die along the bar",
};

/** How press or rolls are set, pass by pass, and where the bar goes back into the fire. */
function Passes({ title, passes }: { title: string; passes: Fired["passes"] }) {
  const unit = useUnit();
  const blocks = passes.some((p) => p.block !== null);
  return (
    <section aria-label="Pass by pass" className="mt-4 max-w-xl">
      <h3 className="font-bold">
        {title}, pass by pass <span className="font-normal text-quiet">as any one place of the bar sees it</span>
      </h3>
      <table className="w-full text-right whitespace-nowrap">
        <thead className="text-sm text-quiet">
          <tr>
            <th className="text-left font-normal">Heat</th>
            <th className="font-normal">Down to</th>
            <th className="pl-4 text-left font-normal">How it lies</th>
            {blocks ? <th className="font-normal">Stop block</th> : null}
            <th className="font-normal">Then</th>
          </tr>
        </thead>
        <tbody className="font-mono">
          {passes.map((p, i) => {
            const first = passes[i - 1]?.heat !== p.heat;
            return (
              // biome-ignore lint/suspicious/noArrayIndexKey: a pass is its place in the list
              <tr key={i} className={first ? "border-t border-edge" : ""}>
                <td className="text-left font-sans">{first ? p.heat : ""}</td>
                <td>{length(p.laid === "edge" ? p.width : p.thickness, unit)}</td>
                <td className="pl-4 text-left font-sans">{LAID[p.laid]}</td>
                {blocks ? <td>{p.block === null ? "" : length(p.block, unit)}</td> : null}
                <td>{sizes([p.width, p.thickness], unit)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-quiet">
        A line: back into the fire. What a pass takes off, and your stop blocks, are numbers of your shop. Indicative: measure.
      </p>
    </section>
  );
}
