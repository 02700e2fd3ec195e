import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Search } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useLocation, useNavigate, useSearchParams } from "react-router";
import { api, ask, whatWentWrong } from "../../api/client";
import type { Document } from "../../api/types";
import { JobBar } from "../../app/JobBar";
import { useMay } from "../../app/session";
import { useJob } from "../../app/useJob";
import { Button, Choice, Notice } from "../../ui";
import { useToast } from "../../ui/toast";
import { AnswerCard, type Verdict } from "./AnswerCard";
import { Limits, type LimitsOf, NO_LIMITS } from "./Limits";
import { Scale } from "./Scale";
import { type Ask, type Candidate, keyOf, type Want, wanted } from "./scale";

type Taste = { wants: Want[]; liked: Candidate[]; disliked: Candidate[] };
const NOTHING: Taste = { wants: [], liked: [], disliked: [] };

/** From a wanted look back to recipes: what is said of it, and designs that come near. */
export function LooksPage() {
  const known = useQuery({ queryKey: ["looks"], queryFn: () => ask(api.GET("/api/looks")), staleTime: 60_000 });
  const working = useJob("looks", undefined, true);
  const toast = useToast();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const may = useMay("smith");
  const [taste, setTaste] = useState<Taste>(NOTHING);
  const [limits, setLimits] = useState<LimitsOf>(NO_LIMITS);
  const fromElsewhere = useTarget((wants) => setTaste({ ...NOTHING, wants }));
  const { job } = working;
  const about = job?.about.kind === "looks" ? job.about.ask : null;
  const result = job?.result?.kind === "looks" ? job.result : null;

  // what was asked last is what one goes on from, once
  const taken = useRef(false);
  useEffect(() => {
    if (taken.current || !about || fromElsewhere) return;
    taken.current = true;
    setTaste({ wants: about.wants ?? [], liked: about.liked ?? [], disliked: about.disliked ?? [] });
    setLimits(limitsOf(about));
  }, [about, fromElsewhere]);

  const open = useMutation({
    mutationFn: async (candidate: Candidate) => {
      const made = await ask(api.POST("/api/looks/design", { body: { candidate } }));
      return ask(api.POST("/api/designs", { body: { document: made.document as Document, name: made.name } }));
    },
    onSuccess: (made) => {
      queries.invalidateQueries({ queryKey: ["designs"] });
      navigate(`/design/${made.id}`);
    },
    onError: (e) => toast(whatWentWrong(e)),
  });
  if (known.error) return <Notice tone="stop">{whatWentWrong(known.error)}</Notice>;
  if (!known.data) return <p className="animate-pulse p-6 text-quiet">Laying out the faces…</p>;
  const { features, mark } = known.data;
  const search = () => {
    taken.current = true;
    working.order({ kind: "looks", ask: { ...taste, ...asked(limits) } });
  };
  const verdict = (c: Candidate): Verdict =>
    taste.liked.some((x) => keyOf(x) === keyOf(c))
      ? "liked"
      : taste.disliked.some((x) => keyOf(x) === keyOf(c))
        ? "disliked"
        : null;
  const judge = (c: Candidate, next: Verdict) => {
    const liked = taste.liked.filter((x) => keyOf(x) !== keyOf(c));
    const disliked = taste.disliked.filter((x) => keyOf(x) !== keyOf(c));
    setTaste({
      ...taste,
      liked: next === "liked" ? [...liked, c].slice(-24) : liked,
      disliked: next === "disliked" ? [...disliked, c].slice(-24) : disliked,
    });
  };
  const nothing = !taste.wants.length && !taste.liked.length;
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] overflow-y-auto min-[900px]:grid-cols-[24rem_minmax(0,1fr)] min-[900px]:overflow-hidden">
      <section aria-label="What is wanted" className="border-line px-4 py-3 min-[900px]:overflow-y-auto min-[900px]:border-r">
        <h1 className="text-2xl font-bold">A wanted look</h1>
        <p className="mb-2 text-sm text-quiet">
          Choose a face for what matters; leave the rest. The search forges some thousands of bars and shows those that come near.
        </p>
        <FromDesign onWants={(wants) => setTaste({ ...NOTHING, wants })} />
        {taste.wants.length ? (
          <Button kind="quiet" onClick={() => setTaste(NOTHING)}>
            Begin anew
          </Button>
        ) : null}
        {features.map((f) => (
          <Scale
            key={f.key}
            feature={f}
            examples={known.data.examples[f.key] ?? []}
            mark={mark}
            want={taste.wants.find((w) => w.feature === f.key)}
            onWant={(next) => setTaste({ ...taste, wants: wanted(taste.wants, f.key, next) })}
          />
        ))}
      </section>
      <section aria-label="What comes near" className="px-4 py-3 min-[900px]:overflow-y-auto">
        <div className="mb-3 flex flex-wrap items-center gap-3">
          <Button kind="main" onClick={search} disabled={nothing || working.busy}>
            <Search size={18} aria-hidden /> {result ? "Search again" : "Search"}
          </Button>
          <JobBar working={working} what="search" />
          {nothing && !working.busy ? <span className="text-quiet">Say first what matters of the look.</span> : null}
        </div>
        <Limits known={known.data} value={limits} onChange={setLimits} />
        {taste.liked.length + taste.disliked.length ? (
          <p className="my-2 text-sm" role="status">
            {taste.liked.length} liked, {taste.disliked.length} not: search again to go by them.
          </p>
        ) : null}
        {result ? (
          <p className="my-2 text-sm text-quiet" aria-live="polite">
            {result.doing === "done" ? "" : `${result.doing}; `}
            {result.tried} faces tried
            {result.refused ? `; ${result.refused} came near and are beyond your limits` : ""}
            {result.answers.length ? "" : ": nothing that can be forged comes near within the limits"}
          </p>
        ) : null}
        <ul className="grid gap-3 min-[700px]:grid-cols-2 min-[1500px]:grid-cols-3">
          {(result?.answers ?? []).map((a) => (
            <AnswerCard
              key={keyOf(a.candidate)}
              answer={a}
              features={features}
              mark={mark}
              wants={about?.wants ?? []}
              verdict={verdict(a.candidate)}
              onVerdict={(v) => judge(a.candidate, v)}
              onOpen={may ? () => open.mutate(a.candidate) : null}
              opening={open.isPending}
            />
          ))}
        </ul>
        {!result && !working.busy ? (
          <p className="mt-10 max-w-[36rem] text-quiet">
            Nothing was searched for yet. A look is told in eleven ways, each with faces along it; two or three of them are often
            enough. What comes near is shown with its heats, hours, cost and what it loses, and opens as a design.
          </p>
        ) : null}
      </section>
    </main>
  );
}

/** A face handed over from elsewhere: a photo's (in the history's state), or a design's by its address (?design=). */
function useTarget(onWants: (wants: Want[]) => void): boolean {
  const { state } = useLocation();
  const [search] = useSearchParams();
  const given = (state as { wants?: Want[] } | null)?.wants;
  const id = Number(search.get("design")) || 0;
  const told = useRef(onWants);
  told.current = onWants;
  const measured = useMeasured(id);
  useEffect(() => {
    const wants = given ?? measured.data;
    if (wants) told.current(wants);
  }, [given, measured.data]);
  return !!given || id > 0;
}

function useMeasured(id: number) {
  return useQuery({
    queryKey: ["look-of-design", id],
    enabled: id > 0,
    queryFn: async () => {
      const full = await ask(api.GET("/api/designs/{design_id}", { params: { path: { design_id: id } } }));
      return (await ask(api.POST("/api/looks/measure", { body: { document: full.document } }))).wants;
    },
  });
}

/** The faces of a design of one's own as what is wanted. */
function FromDesign({ onWants }: { onWants: (wants: Want[]) => void }) {
  const designs = useQuery({ queryKey: ["designs"], queryFn: () => ask(api.GET("/api/designs")) }).data ?? [];
  const [id, setId] = useState(0);
  const measured = useMeasured(id);
  const told = useRef(onWants);
  told.current = onWants;
  useEffect(() => {
    if (measured.data) told.current(measured.data);
  }, [measured.data]);
  if (!designs.length) return null;
  return (
    <>
      <Choice
        label="Like a design"
        value={String(id)}
        options={[
          { value: "0", label: "Like a design of yours…" },
          ...designs.map((d) => ({ value: String(d.id), label: d.name })),
        ]}
        onChange={(v) => setId(Number(v))}
      />
      {measured.error ? <Notice tone="care">{whatWentWrong(measured.error)}</Notice> : null}
    </>
  );
}

const asked = (l: LimitsOf): Partial<Ask> => ({
  lacks: l.lacks,
  pairings: l.pairings,
  heats: l.heats,
  hours: l.hours,
  loss: l.loss,
  finest: l.finest,
  faces: l.thorough ? 4096 : 1024,
});

const limitsOf = (a: Ask): LimitsOf => ({
  lacks: a.lacks ?? [],
  pairings: a.pairings ?? [],
  heats: a.heats ?? null,
  hours: a.hours ?? null,
  loss: a.loss ?? null,
  finest: a.finest ?? null,
  thorough: (a.faces ?? 4096) > 1024,
});
