import { Link2 } from "lucide-react";
import { useEffect, useRef } from "react";
import { Link, useParams } from "react-router";
import { whatWentWrong } from "../../api/client";
import type { PracticeAttempt } from "../../api/types";
import { useSay } from "../../app/session";
import { Button, Notice } from "../../ui";
import { useToast } from "../../ui/toast";
import { useAttempt } from "./attempt";
import { ByEye } from "./ByEye";
import { CoreCentred } from "./CoreCentred";
import { FindFault } from "./FindFault";
import { ReadFace } from "./ReadFace";
import { SumsByHand } from "./SumsByHand";

/** One exercise: its own page, what it took so far, and in the end how it came out. */
export function AttemptPage() {
  const { id = "" } = useParams();
  const { attempt, error, act, busy, refused } = useAttempt(Number(id));
  const toast = useToast();
  if (error)
    return (
      <main className="grid flex-1 place-items-center p-6 text-center">
        <div>
          <h1 className="mb-2 text-xl font-bold">This exercise is not yours</h1>
          <p className="mb-3 text-quiet">{whatWentWrong(error)}</p>
          <Link className="underline" to="/practice">
            To all exercises
          </Link>
        </div>
      </main>
    );
  if (!attempt) return <main className="grid flex-1 animate-pulse place-items-center text-quiet">Laying it out…</main>;
  const share = async () => {
    const address = `${window.location.origin}/practice/new/${attempt.kind}?seed=${attempt.seed}`;
    try {
      await navigator.clipboard.writeText(address);
      toast("The address of this very exercise is copied.");
    } catch {
      toast(address);
    }
  };
  return (
    <main className="min-h-0 flex-1 overflow-y-auto">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-6 py-2 max-[700px]:px-3">
        <Link className="min-h-11 content-center text-quiet underline" to="/practice">
          Practice
        </Link>
        <h1 className="text-xl font-bold">{attempt.title}</h1>
        <span className="ml-auto flex items-center gap-3">
          {attempt.minutes ? <span className="font-mono">{Math.round(attempt.minutes)} min</span> : null}
          <Button
            compact
            kind="quiet"
            onClick={() => void share()}
            label={`Copy the address of this exercise, seed ${attempt.seed}`}
          >
            <Link2 size={16} aria-hidden /> <span className="font-mono">{attempt.seed}</span>
          </Button>
        </span>
      </div>
      <div className="mx-auto max-w-6xl px-6 py-4 max-[700px]:px-3">
        {refused ? <Notice tone="stop">{refused}</Notice> : null}
        {attempt.result ? <Outcome attempt={attempt} /> : null}
        <Own attempt={attempt} act={act} busy={busy} />
      </div>
    </main>
  );
}

function Own({ attempt, act, busy }: { attempt: PracticeAttempt; act: (a: Record<string, unknown>) => void; busy: boolean }) {
  const { shown } = attempt;
  switch (shown.kind) {
    case "core_centred":
      return <CoreCentred attempt={attempt} shown={shown} act={act} busy={busy} />;
    case "read_face":
      return <ReadFace attempt={attempt} shown={shown} act={act} busy={busy} />;
    case "find_fault":
      return <FindFault attempt={attempt} shown={shown} act={act} busy={busy} />;
    case "by_eye":
      return <ByEye key={attempt.done} attempt={attempt} shown={shown} act={act} busy={busy} />;
    case "sums":
      return <SumsByHand key={attempt.done} attempt={attempt} shown={shown} act={act} busy={busy} />;
  }
}

/** How it came out: the score and what it is made of, the truth, one's own moves beside the expert's. */
function Outcome({ attempt }: { attempt: PracticeAttempt }) {
  const say = useSay();
  const result = attempt.result;
  const top = useRef<HTMLElement>(null);
  // it stands above what was worked on: seen, and read out, at once
  useEffect(() => {
    top.current?.focus();
    top.current?.scrollIntoView({ block: "start" });
  }, []);
  if (!result) return null;
  return (
    <section ref={top} tabIndex={-1} aria-label="How it came out" className="mb-5 rounded-xl border border-line bg-panel p-4">
      <div className="flex flex-wrap items-start gap-6">
        <p className="text-center">
          <span className="block font-mono text-5xl font-bold">{Math.round(result.score)}</span>
          <span className="text-sm text-quiet">of 100</span>
        </p>
        <div className="min-w-64 flex-1">
          <p className="mb-2 text-lg">{say(result.says)}</p>
          <dl className="grid max-w-xl grid-cols-[minmax(8rem,auto)_1fr_auto] items-center gap-x-3 gap-y-1 text-sm">
            {result.parts.map(([what, of, got]) => (
              <PartRow key={String(what)} what={String(what)} of={Number(of)} got={Number(got)} />
            ))}
          </dl>
        </div>
        <p className="flex gap-2">
          <Link
            className="inline-flex min-h-11 items-center rounded-lg bg-accent px-4 font-semibold text-on-accent"
            to={`/practice/new/${attempt.kind}`}
          >
            Another
          </Link>
          <Link
            className="inline-flex min-h-11 items-center rounded-lg border border-edge bg-well px-4"
            to={`/practice/new/${attempt.kind}?seed=${attempt.seed}`}
          >
            This one again
          </Link>
        </p>
      </div>
      <ul className="mt-3 list-disc pl-5">
        {result.truth.map((t) => (
          <li key={t}>{say(t)}</li>
        ))}
      </ul>
      {result.expert?.length ? (
        <div className="mt-4 grid gap-6 min-[800px]:grid-cols-2">
          <Moves name="What you did" moves={result.yours ?? []} />
          <Moves name="What an expert would have done" moves={result.expert} />
        </div>
      ) : null}
    </section>
  );
}

function PartRow({ what, of, got }: { what: string; of: number; got: number }) {
  return (
    <>
      <dt>{what}</dt>
      <dd aria-hidden className="h-2 rounded bg-line">
        <span className="block h-2 rounded bg-accent" style={{ width: `${of ? Math.round((100 * got) / of) : 0}%` }} />
      </dd>
      <dd className="text-right font-mono">
        {Number(got.toFixed(1))} of {Math.round(of)}
      </dd>
    </>
  );
}

export function Moves({ name, moves }: { name: string; moves: readonly { says: string; minutes?: number }[] }) {
  const say = useSay();
  return (
    <section aria-label={name}>
      <h2 className="mb-1 font-bold">{name}</h2>
      <ol className="list-decimal pl-6 text-sm">
        {moves.map((m, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a move is its place in the list
          <li key={i} className="border-b border-line py-1">
            {say(m.says)} {m.minutes ? <span className="font-mono text-quiet">{Number(m.minutes.toFixed(1))} min</span> : null}
          </li>
        ))}
      </ol>
    </section>
  );
}
