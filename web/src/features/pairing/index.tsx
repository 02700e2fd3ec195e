import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useMemo, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { api, ask, whatWentWrong } from "../../api/client";
import type { Steel, Suggestion, Use } from "../../api/types";
import { Only } from "../../app/session";
import { Button, Choice, Notice, Segments } from "../../ui";
import { useToast } from "../../ui/toast";
import { Measure } from "../design/fields/Measure";
import { greyOf, SteelChoice, useSteels } from "../steels";
import { BATHS } from "../steels/words";
import { Matrix, shortName } from "./Matrix";
import { PairView } from "./PairView";
import { type Purpose, purposeIn } from "./purpose";
import { useMatrix, usePair, useSuggestions } from "./usePairing";
import { USES, VERDICT } from "./words";

const MOST = 6;

/** What goes together: the steels in use as a matrix, the best pairs for a purpose, and one pair with all its reasons. */
export function Pairing() {
  const steels = useSteels();
  const [query, setQuery] = useSearchParams();
  const purpose = purposeIn(query);
  const [whole, setWhole] = useState(false);
  const used = useMemo(() => steels.filter((s) => s.in_use), [steels]);
  const keys = useMemo(() => used.map((s) => s.key), [used]);
  const asked = (query.get("steels") ?? "").split(",").filter((k) => steels.some((s) => s.key === k));
  const best = useSuggestions(whole ? [] : keys, purpose);
  const chosen = asked.length > 1 ? asked.slice(0, MOST) : (best.data?.[0]?.steels ?? []);
  const shares = chosen.map((_, i) => Number(query.get("shares")?.split(",")[i] ?? 1) || 1);
  const choose = (next: string[], parts?: number[]) =>
    setQuery(
      (was) => {
        const now = new URLSearchParams(was);
        now.set("steels", next.join(","));
        if (parts?.some((p) => p !== 1)) now.set("shares", parts.join(","));
        else now.delete("shares");
        return now;
      },
      { replace: true },
    );
  const matrix = useMatrix(keys, purpose);
  const pair = usePair(chosen, shares, purpose);
  const set = (change: Partial<Purpose>) =>
    setQuery(
      (was) => {
        const now = new URLSearchParams(was);
        for (const [name, value] of Object.entries(change)) now.set(name, String(value));
        return now;
      },
      { replace: true },
    );
  const failed = matrix.error ?? best.error ?? pair.error;
  const overlaid = used.length > 7 && used.length < 13;
  const use = USES.find((u) => u.value === purpose.use);
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_31rem] max-[1000px]:block max-[1000px]:overflow-y-auto">
      <div className="min-h-0 overflow-y-auto p-5 max-[1000px]:overflow-visible">
        <h1 className="sr-only">Pairing</h1>
        <div className="mb-3 flex flex-wrap items-end gap-3">
          <div className="w-88">
            <span className="mb-0.5 block text-sm text-quiet">What for</span>
            <Segments<Use> snug label="What for" value={purpose.use} onChange={(u) => set({ use: u })} options={USES} />
          </div>
          <div className="w-28">
            <Measure
              label="At the spine"
              unit="mm"
              value={purpose.thickness}
              onChange={(v) => set({ thickness: Math.min(60, Math.max(0.5, v ?? 4)) })}
            />
          </div>
          <div className="w-28">
            <Measure
              label="Tempered at"
              unit="C"
              value={purpose.temper}
              onChange={(v) => set({ temper: Math.min(350, Math.max(150, v ?? 200)) })}
            />
          </div>
          <div className="w-40">
            <Choice
              titled
              label="Etched in"
              value={purpose.etchant}
              options={Object.entries(BATHS).map(([value, label]) => ({ value: value as keyof typeof BATHS, label }))}
              onChange={(etchant) => set({ etchant })}
            />
          </div>
        </div>
        <p className="mb-3 text-quiet">{use?.about}</p>
        {failed ? <Notice tone="stop">{whatWentWrong(failed)}</Notice> : null}
        <div className={overlaid ? "grid max-[1180px]:block" : ""}>
          <section aria-label="Steels in use" className={overlaid ? "col-start-1 row-start-1" : ""}>
            {used.length > 1 ? (
              <div className={`overflow-x-auto ${matrix.isPlaceholderData ? "animate-pulse" : ""}`}>
                <Matrix steels={used} cells={matrix.data ?? []} chosen={chosen} onChoose={(p) => choose(p)} />
              </div>
            ) : (
              <p className="max-w-sm text-quiet">Fewer than two steels are in use in your shop. Choose them under Steels.</p>
            )}
            <p className="mt-2 text-sm text-quiet">
              {Object.values(VERDICT)
                .map((v) => `${v.sign} ${v.word}`)
                .join("   ")}
            </p>
          </section>
          <section
            aria-label="The best pairs"
            // in the empty half of the matrix, while there is room
            className={
              overlaid
                ? "relative z-10 col-start-1 row-start-1 w-68 self-start justify-self-end max-[1180px]:mt-6 max-[1180px]:w-full"
                : "mt-6 max-w-xl"
            }
          >
            <div className="mb-2">
              <Segments<"used" | "all">
                snug
                label="Best pairs of"
                value={whole ? "all" : "used"}
                onChange={(v) => setWhole(v === "all")}
                options={[
                  { value: "used", label: "Best in use" },
                  { value: "all", label: "of the list" },
                ]}
              />
            </div>
            <Best
              found={best.data ?? []}
              steels={steels}
              chosen={chosen}
              onChoose={(p) => choose(p)}
              waiting={best.isPending}
              most={overlaid ? 6 : 12}
            />
          </section>
        </div>
      </div>
      <aside
        aria-label="The pair"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
        tabIndex={0}
        className="min-h-0 overflow-y-auto border-l border-line bg-panel p-5 max-[1000px]:overflow-visible"
      >
        <ChosenSteels chosen={chosen} shares={shares} onChange={choose} steels={steels}>
          {chosen.length > 1 ? <BeginButton steels={chosen} shares={shares} clad={purpose.use === "clad"} /> : null}
        </ChosenSteels>
        {chosen.length < 2 ? (
          <p className="text-quiet">{best.isPending ? "Working it out…" : "Choose two steels."}</p>
        ) : pair.data && pair.data.parts.length === chosen.length ? (
          <div className={pair.isPlaceholderData ? "animate-pulse" : ""}>
            <PairView pair={pair.data} steels={chosen.flatMap((k) => steels.filter((s) => s.key === k))} use={purpose.use} />
          </div>
        ) : (
          <p className="animate-pulse text-quiet">Working it out…</p>
        )}
      </aside>
    </main>
  );
}

function Best({
  found,
  steels,
  chosen,
  onChoose,
  waiting,
  most,
}: {
  found: Suggestion[];
  steels: Steel[];
  chosen: string[];
  onChoose: (pair: string[]) => void;
  waiting: boolean;
  most: number;
}) {
  if (waiting) return <p className="animate-pulse text-quiet">Working it out…</p>;
  if (!found.length)
    return <p className="text-quiet">No two of these suit it. Look through the whole list, or take other steels into use.</p>;
  const of = (key: string) => steels.find((s) => s.key === key);
  return (
    <ol className="space-y-1">
      {found.slice(0, most).map((s) => {
        const [a, b] = s.steels.map(of);
        const on = s.steels.every((k) => chosen.includes(k)) && chosen.length === 2;
        return (
          <li key={s.steels.join()}>
            <button
              type="button"
              aria-pressed={on}
              onClick={() => onChoose(s.steels)}
              className={`flex min-h-11 w-full items-center gap-3 rounded-lg border px-3 text-left ${on ? "border-2 border-ink" : "border-line hover:border-edge"}`}
            >
              <span aria-hidden className="flex h-7 w-10 shrink-0 overflow-hidden rounded border border-edge">
                {[a, b].map((x) => (
                  <span key={x?.key} className="flex-1" style={{ background: greyOf(x?.grey ?? 0) }} />
                ))}
              </span>
              <span className="min-w-0 flex-1">
                {a && b ? `${shortName(a)} + ${shortName(b)}` : s.steels.join(" + ")}
                <span className="block truncate text-sm text-quiet">{told(s)}</span>
              </span>
              <span className={VERDICT[s.verdict].text} title={VERDICT[s.verdict].word}>
                {VERDICT[s.verdict].sign}
                <span className="sr-only">{VERDICT[s.verdict].word}</span>
              </span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}

/** What tells this pair from the next: contrast and hardness. */
function told(s: Suggestion): string {
  const hard = [...new Set(s.hrc.map((h) => h.toFixed(0)))].join(" / ");
  return `contrast ${s.apart.toFixed(0)}${hard ? ` · ${hard} HRC` : ""}`;
}

/** The steels looked at: two or more, each with its part of the stack. */
function ChosenSteels({
  chosen,
  shares,
  onChange,
  steels,
  children,
}: {
  chosen: string[];
  shares: number[];
  onChange: (keys: string[], shares: number[]) => void;
  steels: Steel[];
  children: ReactNode;
}) {
  const free = steels.find((s) => s.in_use && !chosen.includes(s.key)) ?? steels.find((s) => !chosen.includes(s.key));
  return (
    <div className="mb-4 space-y-2">
      {chosen.map((key, i) => (
        <div key={key} className="flex items-end gap-2">
          <div className="min-w-0 flex-1">
            <SteelChoice
              label={`Steel ${i + 1}`}
              value={key}
              onChange={(k) =>
                !chosen.includes(k) &&
                onChange(
                  chosen.map((old, n) => (n === i ? k : old)),
                  shares,
                )
              }
            />
          </div>
          <div className="w-24">
            <Measure
              label={`Parts of steel ${i + 1}`}
              bare
              unit="parts"
              value={shares[i]}
              onChange={(v) =>
                v &&
                v > 0 &&
                v <= 1000 &&
                onChange(
                  chosen,
                  shares.map((old, n) => (n === i ? v : old)),
                )
              }
            />
          </div>
          {chosen.length > 2 ? (
            <button
              type="button"
              aria-label={`Take steel ${i + 1} out`}
              className="grid h-11 w-11 place-items-center rounded-lg hover:bg-line/60"
              onClick={() =>
                onChange(
                  chosen.filter((_, n) => n !== i),
                  shares.filter((_, n) => n !== i),
                )
              }
            >
              ✕
            </button>
          ) : null}
        </div>
      ))}
      <div className="flex flex-wrap items-center justify-between gap-2">
        {free && chosen.length < MOST ? (
          <button
            type="button"
            className="min-h-11 rounded-lg px-2 text-quiet hover:text-ink"
            onClick={() => onChange([...chosen, free.key], [...shares, 1])}
          >
            + another steel
          </button>
        ) : (
          <span />
        )}
        {children}
      </div>
    </div>
  );
}

/** A new design whose pile is of these steels, by these parts. */
function BeginButton({ steels, shares, clad }: { steels: string[]; shares: number[]; clad: boolean }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const toast = useToast();
  const begin = useMutation({
    mutationFn: () => ask(api.POST("/api/designs", { body: { pile: { steels, shares, clad } } })),
    onSuccess: (made) => {
      queries.invalidateQueries({ queryKey: ["designs"] });
      navigate(`/design/${made.id}`);
    },
    onError: (e) => toast(whatWentWrong(e)),
  });
  return (
    <Only needs="smith">
      <Button onClick={() => begin.mutate()} disabled={begin.isPending}>
        Begin a design with {steels.length === 2 ? "both" : "these"}
      </Button>
    </Only>
  );
}
