import { useEffect, useMemo, useState } from "react";
import { api, ask, Problem, whatWentWrong } from "../../../api/client";
import type { BladeSection, CoreLine, Document, Ledger, Measures, ProblemItem, Steered } from "../../../api/types";
import { Notice, Tabs } from "../../../ui";
import { useToast } from "../../../ui/toast";
import type { Change } from "../draft";
import { Findings } from "../Findings";
import { fieldsOf, type Schema } from "../fields/schema";
import { Fold, Shell } from "../Panel";
import { useCatalogue } from "../useCatalogue";
import { useWorkedOut } from "../usePrediction";
import { AimFields } from "./AimFields";
import { CoreChart, type Dot, Legend, type Spread, type Trail } from "./CoreChart";
import { ErrorSliders } from "./ErrorsTab";
import { EtchSays, type Faces, ReadingsTable } from "./EtchTab";
import { lineHeight, ofSide } from "./line";
import { BehindChart, BeltFields, BevelPlan, HandleFields, Offcuts, Weights } from "./MeasuresTab";
import { PhotoPicker } from "./PhotoPicker";
import { closed, isOver, lessBefore, withHeights } from "./readings";
import { SectionGlance } from "./SectionGlance";
import { EdgeSteels, Standing } from "./Standing";
import { SizeFields, StudySays, StudyStart } from "./StudyTab";
import { studyKey, useStudy } from "./useStudy";

const TABS = ["Core line", "Tolerances", "Test etch", "Bevel plan", "Edge and weight"] as const;
type Tab = (typeof TABS)[number];

/** Where the blade is ground: its core line left against right, what errors do to it, readings and corrections, the bevel plan. */
export function GrindPlace({
  document,
  ledger,
  core,
  problems,
  at,
  onAt,
  change,
  undo,
  title,
  onPreview,
}: {
  document: Document;
  ledger: Ledger | null;
  core: CoreLine | null;
  problems: ProblemItem[];
  /** The station under the pointer, mm. */
  at: number | null;
  onAt: (x: number | null) => void;
  change: (c: Change) => void;
  undo: () => void;
  /** The design's name. */
  title: string;
  /** Another blade to lay on the plate instead of the design's own, for looking at only. */
  onPreview: (blade: Document["blade"] | null) => void;
}) {
  const [tab, setTab] = useState<Tab>(document.readings?.heights?.length ? "Test etch" : "Core line");
  const toast = useToast();
  const [photo, setPhoto] = useState(false);
  const [takes, setTakes] = useState<number[] | null>(null);
  const { run, start, cancel } = useStudy();
  const catalogue = useCatalogue();
  const sizeFields = useMemo(() => (catalogue ? fieldsOf(catalogue.sizes as Schema) : []), [catalogue]);
  const blade = document.blade;
  const { recipe, off } = document;
  const geometry = { document: { recipe, blade, off, handle: document.handle } };
  const measures = useAsking<Measures>("/api/blade/measures", { ...geometry, belts: takes }, !!blade);
  const sections = useAsking<BladeSection[]>("/api/blade/sections", { document: { recipe, blade, off }, stations: 60 }, !!blade);
  const surface = ledger?.shape?.surface ?? "";
  const reading =
    tab === "Test etch" && !!document.readings?.heights?.length && !!core?.flat && !isOver(document.readings, surface);
  const { aim, sizes, readings } = document;
  const steered = useAsking<Steered>("/api/blade/steer", { document: { recipe, blade, off, aim, sizes, readings } }, reading);
  const [faces, setFaces] = useState<Faces>("design");
  const previewed = tab === "Test etch" && reading ? steered.data : null;
  useEffect(() => {
    const other = faces === "read" ? previewed?.as_read : faces === "ground" ? previewed?.corrected : null;
    onPreview((other as Document["blade"] | undefined) ?? null);
  }, [faces, previewed, onPreview]);
  useEffect(() => () => onPreview(null), [onPreview]);
  const length = ledger?.shape?.length ?? 100;
  const [lastAt, setLastAt] = useState<number | null>(null);
  useEffect(() => {
    if (at !== null) setLastAt(at);
  }, [at]);

  if (!blade || !ledger?.shape) {
    return (
      <div className="grid flex-1 place-items-center bg-panel p-6 text-center">
        <div className="max-w-lg">
          <p className="mb-3 text-quiet">
            {blade
              ? "The blade cannot be worked out yet: put right what is marked in Design."
              : "There is no blade in this design yet. Cut one from the bar in Design."}
          </p>
          <Findings findings={[]} problems={problems} />
        </div>
      </div>
    );
  }

  const stations = core?.stations ?? [];
  const right = ofSide(stations, "right");
  const xs = right.map((s) => s.x);
  const now: Trail = {
    label: "core line",
    x: xs,
    right: right.map(lineHeight),
    left: ofSide(stations, "left").map(lineHeight),
    look: "now",
  };
  const slantAt = (x: number) =>
    right.reduce((best, s) => (Math.abs(s.x - x) < Math.abs(best.x - x) ? s : best), right[0] ?? { x: 0, slant: 1 }).slant;
  const band = core ? right.map((s): [number, number, number] => [s.x, core.band.low * s.slant, core.band.high * s.slant]) : [];
  const heights = right.map((s): [number, number] => [s.x, s.height]);
  const square = (xs2: number[], hs: number[]) => hs.map((h, i) => h * slantAt(xs2[i] ?? 0));
  let trails: Trail[] = [now];
  let spread: Spread | undefined;
  let dots: Dot[] = [];
  const study = run.study;
  if (tab === "Tolerances" && study) {
    trails = [
      {
        label: "usual blade",
        x: study.x,
        right: square(study.x, study.right.middle),
        left: square(study.x, study.left.middle),
        look: "middle",
      },
    ];
    spread = {
      label: "nine blades in ten",
      x: study.x,
      right: [square(study.x, study.right.low), square(study.x, study.right.high)],
      left: [square(study.x, study.left.low), square(study.x, study.left.high)],
    };
  }
  if (tab === "Test etch") {
    dots = (readings?.heights ?? []).flatMap((r) =>
      (r.state === "line" || r.state === undefined) && r.height != null ? [{ x: r.x, side: r.side, height: r.height }] : [],
    );
    const s = steered.data;
    if (s) {
      const l = s.lines;
      trails = [
        {
          label: "as read",
          x: s.x,
          right: square(s.x, l.right?.[1] ?? []),
          left: square(s.x, l.left?.[1] ?? []),
          look: "before",
        },
        {
          label: "ground as advised",
          x: s.plan_x,
          right: square(s.plan_x, s.after.right ?? []),
          left: square(s.plan_x, s.after.left ?? []),
          look: "now",
        },
      ];
      spread = {
        label: "9 in 10",
        x: s.x,
        right: [square(s.x, l.right?.[0] ?? []), square(s.x, l.right?.[2] ?? [])],
        left: [square(s.x, l.left?.[0] ?? []), square(s.x, l.left?.[2] ?? [])],
      };
    }
  }
  const glance = sections.data ? <SectionGlance sections={sections.data} at={at ?? lastAt ?? length * 0.4} /> : null;
  const m = measures.data;
  const noCore = core && !stations.length;
  const needsCore = tab === "Core line" || tab === "Tolerances" || tab === "Test etch";
  const take = (next: Steered["corrected"] | undefined) => {
    if (!next) return;
    // what was read was read on faces that are gone now: it becomes a round of its own
    const readings = document.readings ?? {};
    const before = blade?.correction;
    const after = (next as NonNullable<Document["blade"]>).correction;
    const ground = { right: lessBefore(after?.right, before?.right), left: lessBefore(after?.left, before?.left) };
    change({
      type: "document",
      document: {
        ...document,
        blade: next as Document["blade"],
        readings: closed(readings, ground),
      },
    });
    toast("The blade is now as read, and ground as advised. Etch it again: the new faces want new readings.", undo);
  };
  const keep = (name: string) =>
    ask(api.POST("/api/blade/offcut", { body: { document, name } }))
      .then((made) =>
        ask(api.POST("/api/designs", { body: { document: made.document as Document, name: `${title}: ${name}`.slice(0, 200) } })),
      )
      .then(() => toast(`The ${name} lies on the bench as a bar of its own.`))
      .catch((e) => toast(whatWentWrong(e)));

  return (
    <div className="flex min-h-0 flex-1 flex-col bg-panel max-[800px]:flex-none">
      <div className="flex shrink-0 border-b border-line bg-ground px-3">
        <Tabs label="What is looked at" tabs={TABS} value={tab} onChange={setTab} />
      </div>
      <div
        role="tabpanel"
        aria-label={tab}
        className="grid min-h-0 flex-1 grid-cols-[21rem_minmax(0,1fr)_20rem] max-[1100px]:grid-cols-[19rem_minmax(0,1fr)] max-[800px]:flex max-[800px]:flex-none max-[800px]:flex-col"
      >
        <div className="flex min-h-0 flex-col border-r border-line">
          {tab === "Core line" ? (
            <Shell title="How far from true">
              <Fold title="what is wanted of the line">
                <AimFields document={document} band={core?.band ?? null} change={change} />
              </Fold>
              <ErrorSliders document={document} blade={blade} problems={problems} change={change} />
            </Shell>
          ) : tab === "Tolerances" ? (
            <Shell title="Your usual errors">
              <SizeFields document={document} fields={sizeFields} problems={problems} change={change} />
              <div className="col-span-full mt-1 font-bold">Wanted</div>
              <AimFields document={document} band={core?.band ?? null} change={change} />
            </Shell>
          ) : tab === "Test etch" ? (
            <Shell title="Read off the blade">
              <ReadingsTable
                surface={surface}
                document={document}
                bladeLength={length}
                change={change}
                onPhoto={() => setPhoto(true)}
              />
              <div className="col-span-full mt-1 font-bold">Wanted</div>
              <AimFields document={document} band={core?.band ?? null} change={change} />
            </Shell>
          ) : tab === "Bevel plan" ? (
            <Shell title="Belts">{m ? <BeltFields measures={m} takes={takes} onTakes={setTakes} /> : null}</Shell>
          ) : (
            <Shell title="Handle">
              <HandleFields document={document} materials={m?.handles ?? []} change={change} />
            </Shell>
          )}
        </div>
        <div className="flex min-h-0 min-w-0 flex-col gap-2 p-3 max-[800px]:h-96">
          {needsCore ? (
            noCore || (tab !== "Core line" && core && !core.flat) ? (
              <NoCore flat={!noCore} />
            ) : core ? (
              <>
                <CoreChart
                  label={`Core line of both sides, ${tab}`}
                  length={length}
                  heights={heights}
                  band={band}
                  judged={[core.band.start, core.band.end]}
                  trails={trails}
                  spread={spread}
                  dots={dots}
                  at={at}
                  onAt={onAt}
                />
                <Legend trails={trails} spread={spread} dots={dots.length > 0} />
              </>
            ) : (
              <p className="m-auto animate-pulse text-quiet">Working out the core line…</p>
            )
          ) : m ? (
            tab === "Bevel plan" ? (
              <BevelPlan measures={m} />
            ) : (
              <BehindChart measures={m} bladeLength={length} />
            )
          ) : (
            <Waiting failure={measures.why} />
          )}
        </div>
        <aside
          key={tab}
          // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
          tabIndex={0}
          aria-label="What it comes to"
          className="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-line p-3 max-[1100px]:col-span-full max-[1100px]:max-h-60 max-[1100px]:border-t max-[1100px]:border-l-0 max-[800px]:max-h-none"
        >
          {tab === "Core line" && core ? (
            <Standing core={core}>{glance}</Standing>
          ) : tab === "Tolerances" && core?.flat ? (
            <>
              <StudyStart
                run={run}
                stale={!!run.study && run.of !== studyKey(document)}
                onStart={() => void start(document)}
                onCancel={cancel}
              />
              {study ? (
                <StudySays study={study} band={core.band} fields={sizeFields} />
              ) : (
                <p className="text-quiet">
                  Makes ten thousand blades, each with errors as large as yours usually are, and says how many would be of first
                  grade and which error matters most.
                </p>
              )}
            </>
          ) : tab === "Test etch" && core?.flat ? (
            <>
              {steered.why && reading ? <Notice tone="stop">{steered.why}</Notice> : null}
              {steered.data && reading && !steered.why ? (
                <EtchSays
                  steered={steered.data}
                  faces={faces}
                  onFaces={setFaces}
                  onTake={() => {
                    setFaces("design");
                    take(steered.data?.corrected);
                  }}
                />
              ) : reading ? null : (
                <p className="text-quiet">
                  Enter what you read: it says where the core lies, how surely, and how much to take off which side. A photo is
                  never needed.
                </p>
              )}
            </>
          ) : tab === "Edge and weight" && m ? (
            <>
              <Weights measures={m} />
              <Offcuts measures={m} onKeep={(name) => void keep(name)} />
              {core ? <EdgeSteels core={core} /> : null}
            </>
          ) : tab === "Bevel plan" ? (
            glance
          ) : null}
          {tab === "Core line" || tab === "Bevel plan" ? (
            <Findings findings={ledger.findings.filter((f) => f.grade !== "note")} problems={problems} />
          ) : null}
        </aside>
      </div>
      <PhotoPicker
        document={document}
        bladeLength={length}
        curves={m ? { edge: m.edge, spine: m.spine } : null}
        open={photo}
        onClose={() => setPhoto(false)}
        onTake={(picked) => {
          const kept = (readings?.heights ?? []).filter((r) => !picked.some((p) => p.x === r.x && p.side === r.side));
          change({
            type: "plan",
            plan: {
              readings: withHeights(
                readings ?? {},
                [...kept, ...picked].sort((a, b) => a.x - b.x),
                surface,
              ),
            },
            what: `readings.photo.${kept.length}`,
          });
          setPhoto(false);
        }}
      />
    </div>
  );
}

type Asking<T> = { data: T | null; why: string };

/** Asked once the hand rests, while wanted; the last answer stays until the next. */
function useAsking<T>(
  path: "/api/blade/measures" | "/api/blade/sections" | "/api/blade/steer",
  body: object,
  wanted: boolean,
): Asking<T> {
  const answer = useWorkedOut<T | null>(wanted ? { path, body } : { path: "", body: {} }, (asked, signal) => {
    const { path: to, body: sent } = asked as { path: string; body: never };
    return to ? (ask(api.POST(to as "/api/blade/measures", { body: sent, signal })) as Promise<T>) : Promise.resolve(null);
  });
  const failure = answer.failure;
  const why = useMemo(
    () =>
      !failure
        ? ""
        : failure.kind === "invalid"
          ? failure.problems.map((p) => `${p.wrong}; ${p.cure}.`).join(" ")
          : failure.kind === "failed"
            ? failure.why
            : whatWentWrong(
                new Problem(503, { type: "", code: "", title: "The server cannot be reached.", status: 503, problems: [] }),
              ),
    [failure],
  );
  return { data: wanted ? answer.data : null, why };
}

function Waiting({ failure }: { failure: string }) {
  return failure ? <Notice tone="stop">{failure}</Notice> : <p className="m-auto animate-pulse text-quiet">Measuring…</p>;
}

function NoCore({ flat }: { flat: boolean }) {
  return (
    <div className="m-auto max-w-md text-center text-quiet">
      <p className="mb-2 font-semibold text-ink">
        {flat ? "This core does not lie flat between clads." : "There is no core line on this blade."}
      </p>
      <p>
        {flat
          ? "Its line is predicted, but tolerances and test-etch steering are only worked out for a core between two clads."
          : "A core line needs a laminate: a hard core between clads, let into a slot, jacketed, or joined at the edge. Start a new design from one of the laminates, or give the stack like outsides."}
      </p>
    </div>
  );
}
