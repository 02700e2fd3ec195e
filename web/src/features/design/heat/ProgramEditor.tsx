import { useQueryClient } from "@tanstack/react-query";
import { Download, Plus, Trash2, Upload } from "lucide-react";
import { useState } from "react";
import { answered } from "../../../api/answered";
import { api, ask, overtakenBy, saveFile, whatWentWrong } from "../../../api/client";
import type { KilnProgram, KilnSegment, ProblemItem } from "../../../api/types";
import { Only } from "../../../app/session";
import { Button, Choice, FilePick, Notice } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { Measure } from "../fields/Measure";
import { sentence } from "../fields/problems";
import { usePrograms } from "./useKiln";

type Props = {
  program: KilnProgram;
  /** Steps of the hardening plan that a kiln can do. */
  steps: { key: string; title: string }[];
  onPlan: (key: string) => void;
  onChange: (program: KilnProgram) => void;
  problems: ProblemItem[];
};

/** A kiln program: from the plan, from those kept, from a file, or written here. */
export function ProgramEditor({ program, steps, onPlan, onChange, problems }: Props) {
  const kept = usePrograms();
  const queries = useQueryClient();
  const toast = useToast();
  const [problem, setProblem] = useState("");
  const segments = program.segments;
  const set = (next: KilnSegment[]) => onChange({ ...program, segments: next });
  const put = (i: number, change: Partial<KilnSegment>) => set(segments.map((s, k) => (k === i ? { ...s, ...change } : s)));
  const fail = (e: unknown) => setProblem(whatWentWrong(e));
  const known = kept.data?.find((k) => k.program.name === program.name);
  // as it was when it was taken up here: what somebody else kept since is not written over unseen
  const [taken, setTaken] = useState<{ id: number; mark: string } | null>(null);
  const keep = () => {
    setProblem("");
    const asking = known
      ? ask(
          api.PUT("/api/kiln/programs/{program_id}", {
            params: { path: { program_id: known.id } },
            body: { ...program, base: taken?.id === known.id ? taken.mark : known.mark },
          }),
        )
      : ask(api.POST("/api/kiln/programs", { body: program }));
    asking
      .then((kept) => {
        setTaken(kept);
        toast(`${program.name} is kept.`);
      })
      .catch((e) => {
        const mark = overtakenBy(e);
        if (mark === null || !known) return fail(e);
        setTaken({ id: known.id, mark });
        setProblem(
          "Somebody changed the kept program in the meantime. Keep it again to put yours in its place, or choose it to see theirs.",
        );
      })
      .finally(() => queries.invalidateQueries({ queryKey: ["kiln-programs"] }));
  };
  const forget = () => {
    if (!known) return;
    ask(api.DELETE("/api/kiln/programs/{program_id}", { params: { path: { program_id: known.id } } }))
      .then(async (next) => {
        await answered(queries, ["kiln-programs"], next);
        toast(`${program.name} removed.`, () => {
          ask(api.POST("/api/kiln/programs", { body: known.program }))
            .then(() => queries.invalidateQueries({ queryKey: ["kiln-programs"] }))
            .catch(fail);
        });
      })
      .catch(fail);
  };
  const take = async (chosen: File) => {
    setProblem("");
    try {
      const name = chosen.name.replace(/\.csv$/i, "").slice(0, 120) || "From a file";
      onChange(await ask(api.POST("/api/kiln/program-from-csv", { body: { text: await chosen.text(), name } })));
    } catch (e) {
      fail(e);
    }
  };
  return (
    <div className="space-y-3">
      <Choice<string>
        label="Program"
        value=""
        options={[
          { value: "", label: "Choose a program…", short: "Choose a program…" },
          ...steps.map((s) => ({ value: `plan:${s.key}`, label: s.title, hint: "from the hardening plan" })),
          ...(kept.data ?? []).map((k) => ({ value: `kept:${k.id}`, label: k.program.name, hint: "kept" })),
        ]}
        onChange={(chosen) => {
          if (chosen.startsWith("plan:")) onPlan(chosen.slice(5));
          const found = kept.data?.find((k) => `kept:${k.id}` === chosen);
          if (!found) return;
          setTaken(found);
          onChange(found.program);
        }}
      />
      <label className="block">
        <span className="mb-0.5 block text-sm text-quiet">Name</span>
        <input
          value={program.name}
          maxLength={120}
          onChange={(e) => onChange({ ...program, name: e.target.value })}
          className="min-h-11 w-full rounded-lg border border-edge bg-well px-3"
        />
      </label>
      <ol className="space-y-2">
        {segments.map((s, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: segments have no other name
          <li key={i} className="rounded-lg border border-line p-2">
            <div className="grid grid-cols-3 items-end gap-2">
              <Measure label={`${i + 1}. To`} unit="C" value={s.celsius} onChange={(v) => v !== null && put(i, { celsius: v })} />
              <Measure
                label="C° an hour"
                unit=""
                optional
                placeholder="full"
                value={s.rate}
                onChange={(rate) => put(i, { rate })}
              />
              <Measure label="Hold" unit="min" value={s.minutes ?? 0} onChange={(v) => put(i, { minutes: v ?? 0 })} />
            </div>
            <div className="flex items-center justify-between gap-2">
              <label className="flex min-h-9 items-center gap-2 text-sm">
                <input
                  type="checkbox"
                  className="h-5 w-5"
                  checked={s.through ?? false}
                  onChange={(e) => put(i, { through: e.target.checked })}
                />
                hold counts once the blade is hot through
              </label>
              <Button
                compact
                kind="quiet"
                label={`Remove segment ${i + 1}`}
                disabled={segments.length < 2}
                onClick={() => set(segments.filter((_, k) => k !== i))}
              >
                <Trash2 size={18} aria-hidden />
              </Button>
            </div>
            <label className="flex min-h-9 items-center gap-2 text-sm">
              <input
                type="checkbox"
                className="h-5 w-5"
                checked={s.out ?? false}
                onChange={(e) => put(i, { out: e.target.checked, ...(e.target.checked ? { through: false, rate: null } : {}) })}
              />
              out into still air until it is down to this
            </label>
          </li>
        ))}
      </ol>
      {problems.length ? <Notice tone="stop">{problems.map((p) => sentence(p)).join(" ")}</Notice> : null}
      {problem ? <Notice tone="stop">{problem}</Notice> : null}
      <div className="flex flex-wrap gap-2">
        <Button
          onClick={() => set([...segments, { celsius: 200, rate: null, minutes: 60, through: false, out: false }])}
          disabled={segments.length >= 40}
        >
          <Plus size={18} aria-hidden /> Segment
        </Button>
        <Only needs="smith">
          <Button onClick={keep} disabled={!program.name.trim()}>
            {known ? "Keep over the old" : "Keep it"}
          </Button>
          {known ? (
            <Button compact label="Remove the kept program" onClick={forget}>
              <Trash2 size={18} aria-hidden />
            </Button>
          ) : null}
        </Only>
        <Button
          compact
          label="Save the program as CSV"
          onClick={() => saveFile("/api/kiln/program.csv", program, "program.csv").catch(fail)}
        >
          <Download size={18} aria-hidden />
        </Button>
        <FilePick label="Read a program from CSV" field="Program file" accept=".csv,text/csv" onPick={(f) => void take(f)}>
          <Upload size={18} aria-hidden />
        </FilePick>
      </div>
    </div>
  );
}
