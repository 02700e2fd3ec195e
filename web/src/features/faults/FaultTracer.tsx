import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, whatWentWrong } from "../../api/client";
import type { Document, FaultFound, SeenThing } from "../../api/types";
import { useSay } from "../../app/session";
import { fits } from "../../lib/called";
import { Button, Notice, SearchField } from "../../ui";
import { useToast } from "../../ui/toast";
import { FaultDrawing } from "./FaultDrawing";
import { useFaults } from "./useFaultName";

const VERDICT: Record<FaultFound["suspects"][number]["verdict"], { mark: string; ink: string }> = {
  likely: { mark: "■", ink: "text-stop" },
  possible: { mark: "◆", ink: "text-care" },
  unlikely: { mark: "○", ink: "text-quiet" },
};

/** What is seen, and the answers to looks by their cause. */
export type Traced = { fault: string; answers: Record<string, boolean> };

/** Say what is seen; it asks the look that tells most, names causes with their reasons, and says what to do. */
export function FaultTracer({
  document,
  build,
  onChange,
  traced,
  onKeep,
}: {
  document?: Document;
  build?: number;
  /** What was seen and answered before. */
  traced?: Traced;
  /** Keeps what was seen and answered. */
  onKeep?: (traced: Traced, says: string) => void;
  /** Takes a change of the plan over. */
  onChange?: (changed: Document, says: string) => void;
}) {
  const [seen, setSeen] = useState(traced?.fault ?? "");
  const [wanted, setWanted] = useState("");
  const [answers, setAnswers] = useState(() => Object.entries(traced?.answers ?? {}).map(([cause, yes]) => ({ cause, yes })));
  const list = useFaults();
  const body = {
    seen,
    answers: Object.fromEntries(answers.map((a) => [a.cause, a.yes])),
    ...(document ? { document: document as never } : {}),
    ...(build === undefined ? {} : { build }),
  };
  const found = useQuery({
    queryKey: ["fault", JSON.stringify(body)],
    queryFn: () => ask(api.POST("/api/finish/faults", { body })),
    enabled: !!seen,
    placeholderData: (old) => old,
    retry: false,
  });
  if (list.error) return <Notice tone="stop">{whatWentWrong(list.error)}</Notice>;
  if (!seen)
    return (
      <section aria-label="What is seen">
        <div className="mb-3 flex flex-wrap items-center gap-3">
          <h2 className="text-xl font-bold">What do you see?</h2>
          <SearchField
            label="Find what is seen"
            says="Find: line, crack, pale…"
            value={wanted}
            onChange={setWanted}
            className="w-64"
          />
        </div>
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-2">
          {(list.data ?? [])
            .filter((s: SeenThing) => fits(`${s.says} ${s.look} ${s.causes.join(" ")}`, wanted))
            .map((s) => (
              <li key={s.key}>
                <button
                  type="button"
                  onClick={() => {
                    setSeen(s.key);
                    setAnswers([]);
                  }}
                  className="flex h-full min-h-11 w-full gap-3 rounded-lg border border-line bg-panel p-2 text-left hover:border-edge"
                >
                  <FaultDrawing of={s.key} />
                  <span className="min-w-0">
                    <span className="block leading-tight font-semibold">{s.says}</span>
                    <span className="block text-sm leading-tight text-quiet">{s.look}</span>
                  </span>
                </button>
              </li>
            ))}
        </ul>
        {list.data && !list.data.some((s) => fits(`${s.says} ${s.look} ${s.causes.join(" ")}`, wanted)) ? (
          <p className="py-6 text-center text-quiet">Nothing here is called that.</p>
        ) : null}
      </section>
    );
  const told = found.data?.found;
  return (
    <section aria-label="What it comes from" className="mx-auto max-w-5xl">
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <FaultDrawing of={seen} />
        <h2 className="text-xl font-bold">{told?.says ?? "…"}</h2>
        <span className="ml-auto flex gap-2">
          {answers.length ? <Button onClick={() => setAnswers(answers.slice(0, -1))}>Take back the last answer</Button> : null}
          <Button onClick={() => setSeen("")}>Something else</Button>
          {onKeep && told ? (
            <Button kind="main" onClick={() => onKeep({ fault: seen, answers: body.answers }, told.says)}>
              Into the log
            </Button>
          ) : null}
        </span>
      </div>
      {found.error ? <Notice tone="stop">{whatWentWrong(found.error)}</Notice> : null}
      {told ? (
        <div className="grid gap-4 min-[900px]:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
          <Asking
            told={told}
            onAnswer={(cause, yes) => setAnswers([...answers.filter((a) => a.cause !== cause), { cause, yes }])}
            answered={answers.length}
          />
          <Suspects told={told} changes={found.data?.changes ?? []} document={document} onChange={onChange} />
        </div>
      ) : null}
    </section>
  );
}

function Asking({
  told,
  onAnswer,
  answered,
}: {
  told: FaultFound;
  onAnswer: (cause: string, yes: boolean) => void;
  answered: number;
}) {
  const say = useSay();
  const look = told.look;
  return (
    <div aria-live="polite" className="rounded-lg border border-line bg-panel p-4">
      {look ? (
        <>
          <p className="text-sm text-quiet">The look that tells most now, about {look.minutes.toFixed(0)} min</p>
          <p className="my-2 text-lg leading-snug">{say(look.ask)}</p>
          <div className="flex gap-2">
            <Button kind="main" onClick={() => onAnswer(look.cause, true)}>
              Yes
            </Button>
            <Button onClick={() => onAnswer(look.cause, false)}>No</Button>
          </div>
        </>
      ) : (
        <p className="text-lg">{answered ? "No further look would tell more." : "Nothing is left to ask."}</p>
      )}
      {told.looks.length > 1 ? (
        <details className="mt-4">
          <summary className="min-h-11 cursor-pointer py-2 text-quiet">Other looks</summary>
          <ul className="flex flex-col gap-2">
            {told.looks
              .filter((l) => l.cause !== look?.cause)
              .map((l) => (
                <li key={l.cause} className="border-t border-line pt-2">
                  <p className="text-sm">{say(l.ask)}</p>
                  <span className="flex gap-2">
                    <Button compact onClick={() => onAnswer(l.cause, true)} label={`Yes: ${l.ask}`}>
                      Yes
                    </Button>
                    <Button compact onClick={() => onAnswer(l.cause, false)} label={`No: ${l.ask}`}>
                      No
                    </Button>
                  </span>
                </li>
              ))}
          </ul>
        </details>
      ) : null}
    </div>
  );
}

function Suspects({
  told,
  changes,
  document,
  onChange,
}: {
  told: FaultFound;
  changes: { key: string; says: string }[];
  document?: Document;
  onChange?: (changed: Document, says: string) => void;
}) {
  const say = useSay();
  const toast = useToast();
  const take = async (change: { key: string; says: string }) => {
    try {
      const changed = await ask(
        api.POST("/api/finish/faults/change", { body: { document: document as never, change: change.key } }),
      );
      onChange?.(changed.document as Document, change.says);
    } catch (e) {
      toast(whatWentWrong(e));
    }
  };
  return (
    <ol aria-label="Causes, the likeliest first" className="flex flex-col gap-2">
      {told.suspects.map((s) => (
        <li key={s.cause} className={`rounded-lg border p-3 ${s.verdict === "likely" ? "border-ink bg-panel" : "border-line"}`}>
          <p className="flex items-baseline gap-2">
            <span aria-hidden className={VERDICT[s.verdict].ink}>
              {VERDICT[s.verdict].mark}
            </span>
            <strong className="min-w-0 flex-1">{say(s.says)}</strong>
            <span className={`text-sm font-semibold ${VERDICT[s.verdict].ink}`}>{s.verdict}</span>
          </p>
          <span aria-hidden className="my-1 block h-1.5 rounded bg-line">
            <span className="block h-1.5 rounded bg-ink" style={{ width: `${Math.round(100 * s.odds)}%` }} />
          </span>
          {s.reasons.length ? (
            <ul className="text-sm text-quiet">
              {s.reasons.map((r) => (
                <li key={r.cue}>
                  <span aria-hidden>{r.speaks === "for" ? "+" : "−"}</span> <span className="sr-only">{r.speaks}: </span>
                  {say(r.says)}
                </li>
              ))}
            </ul>
          ) : null}
          {s.verdict === "unlikely" ? null : (
            <>
              <p className="mt-1">
                <b>Now:</b> {say(s.cure)}
              </p>
              <p>
                <b>Next time:</b> {say(s.avoid)}
              </p>
              {document && onChange
                ? changes
                    .filter((c) => c.key === s.change)
                    .map((c) => (
                      <div key={c.key} className="mt-1">
                        <Button compact onClick={() => void take(c)}>
                          {c.says}
                        </Button>
                      </div>
                    ))
                : null}
            </>
          )}
        </li>
      ))}
    </ol>
  );
}
