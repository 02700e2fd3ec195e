import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Hammer } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { Against as AgainstOne, CutPlan, Document, MadeSo, StockSheet } from "../../../api/types";
import { useWorkedOut } from "../../../api/worked";
import { Only, RoleNote, useGrams, useSay, useUnit, useUnits } from "../../../app/session";
import { length, sizes } from "../../../lib/units";
import { Button, Choice, Notice, Segments } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { PrintButtons } from "../../build/PrintButtons";
import { buildAddress } from "../../build/where";
import { RACK_KEY } from "../../rack/useRack";
import { useSteelName } from "../../steels/useSteels";
import { ASIDE_KEY, LaidAside, useLaidAside } from "../LaidAside";
import { useTable } from "../table";
import { Against, failing } from "./Against";
import { type Piled, piecesOf, takesOf, whatStands } from "./begin";

type Steel = "laid" | "rack" | "mine";

/** Begin a build: whether the steel is there and the bar long enough, for whom and by when; then the plan is frozen. */
export function BeginPlace() {
  const { document, design, name, problems } = useTable();
  const { recipe, blade, off, stock, fire } = document;
  const unit = useUnit();
  const units = useUnits();
  const steelName = useSteelName();
  const [chosen, setPiled] = useState<Piled | null>(null);
  const [wanted, setSteel] = useState<Steel | null>(null);
  const aside = useLaidAside(design.id);
  const laid = aside.data ?? [];
  // what was taken for this design is not taken twice, unless one says so
  const steel = wanted ?? (laid.length ? "laid" : "rack");
  const drawn = useMemo(() => ({ document: { recipe, blade, off, stock, fire } }), [recipe, blade, off, stock, fire]);
  const sheet = useWorkedOut<StockSheet>("begin-stock", drawn, (body, signal) =>
    ask(api.POST("/api/stock/sheet", { body, signal })),
  );
  const must = useWorkedOut<MadeSo>("begin-made-so", drawn, (body, signal) =>
    ask(api.POST("/api/stock/made-so", { body, signal })),
  );
  // the cut list is of the design as it is drawn: so it is built, unless it comes out too short; not where something tears for it
  const short = (sheet.data?.spare ?? 0) < -0.5;
  const piled = chosen ?? (short && !must.data?.worse.some((a) => a.finding.grade === "stop") ? "must" : "drawn");
  const planned = piled === "must" && must.data ? must.data.document : document;
  const asked = { document: planned as Partial<Document> };
  const cuts = useWorkedOut<CutPlan>(
    "begin-cuts",
    asked,
    (body, signal) => ask(api.POST("/api/stock/cuts", { body, signal })) as Promise<CutPlan>,
    piled === "drawn" || !!must.data,
  );
  const against = useWorkedOut<AgainstOne[]>(
    "begin-against",
    asked,
    (body: { document: Document }, signal) => ask(api.POST("/api/builds/against", { body, signal })),
    piled === "drawn" || !!must.data,
  );
  const wrong = sheet.failure?.kind === "invalid" ? sheet.failure.problems : problems;
  const told = whatStands(sheet.data, piled, cuts.data, steel, steelName);
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-6 py-4 max-[700px]:px-3">
      <div className="mx-auto grid max-w-5xl gap-x-10 gap-y-6 min-[900px]:grid-cols-2">
        <section aria-label="What stands ready">
          <h2 className="mb-2 text-xl font-bold">Is all there?</h2>
          {wrong.length ? (
            <Notice tone="stop">This design cannot be carried out as it stands: {wrong[0]?.wrong}. See Design.</Notice>
          ) : null}
          {sheet.data ? (
            <>
              <div className="mb-3">
                <Segments<Piled>
                  titled
                  label="Piles are cut"
                  value={piled}
                  options={[
                    { value: "must", label: "as Stock says" },
                    { value: "drawn", label: "as they are drawn" },
                  ]}
                  onChange={setPiled}
                />
                <ul className="mt-1 text-sm text-quiet">
                  {sheet.data.piles.map((p) => (
                    <li key={p.bar}>
                      {p.label}: {length(piled === "must" ? p.cut : p.has, unit)}
                      {Math.abs(p.cut - p.has) > 0.5
                        ? `, ${piled === "must" ? "drawn" : "should be"} ${length(piled === "must" ? p.has : p.cut, unit)}`
                        : ""}
                    </li>
                  ))}
                </ul>
              </div>
              <div className="mb-3">
                <Segments<Steel>
                  titled
                  label="Steel"
                  value={steel}
                  options={[
                    ...(laid.length ? [{ value: "laid" as const, label: "as it was taken" }] : []),
                    { value: "rack", label: laid.length ? "more from the rack" : "from the rack, laid aside" },
                    { value: "mine", label: "I see to it myself" },
                  ]}
                  onChange={setSteel}
                />
              </div>
              {laid.length ? (
                <div className="mb-3">
                  <LaidAside aside={laid} />
                  <p className="mt-1 text-sm text-quiet">
                    {steel === "laid"
                      ? "The build begins with it: nothing more is taken out of the rack."
                      : steel === "rack"
                        ? "The bars below are taken besides; what is laid aside stays so for another build of this design."
                        : "It stays laid aside for another build of this design."}
                  </p>
                </div>
              ) : null}
              {steel === "rack" && cuts.data ? <FromTheRack plan={cuts.data} /> : null}
              <ul aria-label="What stands in the way" className="mt-3 flex flex-col gap-2">
                {told.map((t) => (
                  <li
                    key={t.text}
                    className={`border-l-4 px-3 py-1.5 ${t.tone === "care" ? "border-care bg-care-wash" : "border-note bg-note-wash"}`}
                  >
                    {t.text}
                  </li>
                ))}
              </ul>
              {against.data?.length ? (
                <section aria-label="The design" className="mt-4">
                  <h3 className="mb-2 font-bold">What the design says</h3>
                  <Against found={against.data} design={design.id} document={planned} />
                </section>
              ) : null}
              <p className="mt-3">
                <Link className="underline" to={`/design/${design.id}/stock`}>
                  Look at Stock
                </Link>
              </p>
            </>
          ) : wrong.length ? null : (
            <p className="animate-pulse text-quiet">Looking at bar and rack…</p>
          )}
        </section>
        <section aria-label="The build">
          <h2 className="mb-2 text-xl font-bold">Begin the build</h2>
          <p className="mb-3 text-quiet">
            The design is frozen as it stands: what is changed on the way is changed in the build, with its reason. From then on
            the shop sheet leads through the work, also without a network.
          </p>
          <RoleNote needs="smith" what="A smith begins builds; then you can write in their logs." />
          <Only needs="smith">
            <Form
              key={design.id}
              name={name}
              ready={
                !wrong.length &&
                !!sheet.data &&
                !!against.data &&
                (piled === "drawn" || !!must.data) &&
                !aside.isPending &&
                (steel !== "rack" || !!cuts.data)
              }
              document={planned}
              design={design.id}
              plan={steel === "rack" ? cuts.data : null}
              laid={steel === "laid" ? laid.map((a) => a.act) : []}
              besides={steel === "rack" && laid.length > 0}
              fails={failing(against.data ?? [])}
            />
          </Only>
          <h2 className="mt-6 mb-2 text-xl font-bold">On paper</h2>
          <PrintButtons
            title={name}
            lines={[]}
            operations={() => ask(api.POST("/api/stock/route", { body: { document: planned } }))}
            document={async () => planned}
            pieces={piecesOf(cuts.data, units, steelName)}
          />
          <p className="mt-2 text-sm text-quiet">
            The sheet with boxes to write in; the blade to its own size, to glue on the steel, with a rule to check the printer
            by.
          </p>
        </section>
      </div>
    </div>
  );
}

function FromTheRack({ plan }: { plan: CutPlan }) {
  const steel = useSteelName();
  const unit = useUnit();
  const grams = useGrams();
  if (!plan.bars.length) return <p className="text-quiet">Nothing of it is in the rack.</p>;
  return (
    <ul aria-label="From the rack" className="divide-y divide-line rounded-lg border border-line">
      {plan.bars.map((b, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: several bars of one item
        <li key={`${b.item}-${i}`} className="flex flex-wrap gap-x-3 px-3 py-1.5">
          <b className="font-mono">{b.code}</b>
          <span>
            {steel(b.steel)} {sizes([b.width, b.thickness, b.length], unit)}
          </span>
          <span className="ml-auto text-quiet">
            {b.cuts.length} {b.cuts.length === 1 ? "piece" : "pieces"}
            {b.keep ? `, ${length(b.left, unit)} go back` : ""}
          </span>
        </li>
      ))}
      <li className="px-3 py-1.5 text-sm text-quiet">{grams(plan.used - plan.waste, plan.used)} in the pieces.</li>
    </ul>
  );
}

type Orders = { id: number; who: string; title: string; promised: string | null; purpose: "" | Purpose; design: number | null }[];
type Purpose = "slicing" | "carving" | "chopping" | "heavy work" | "show";

/** Where the design is otherwise than what it is for suggests. */
function ForWhat({ document, purpose }: { document: Document; purpose: Purpose }) {
  const say = useSay();
  const { recipe, blade, off, hardening, fire } = document;
  const found = useQuery({
    queryKey: ["suits", purpose, recipe, blade, off, hardening, fire],
    queryFn: () =>
      ask(api.POST("/api/builds/suits", { body: { document: { recipe, blade, off, hardening, fire } as Document, purpose } })),
    enabled: !!blade,
  });
  if (!found.data) return null;
  return (
    <div role="note" aria-label={`For ${purpose}`} className="border-l-4 border-note bg-note-wash px-3 py-2">
      <p className="font-semibold">It is for {purpose}.</p>
      {found.data.differs.length ? (
        <ul className="list-disc pl-5">
          {found.data.differs.map((d) => (
            <li key={d}>{say(d)}</li>
          ))}
        </ul>
      ) : (
        <p>Edge, hardness and outline suit it.</p>
      )}
      <p className="text-sm text-quiet">{found.data.suggested.why} Indicative; yours to decide.</p>
    </div>
  );
}

function Form({
  name,
  ready,
  document,
  design,
  plan,
  laid,
  besides,
  fails,
}: {
  name: string;
  ready: boolean;
  document: Document;
  design: number;
  plan: CutPlan | null | undefined;
  /** Acts in which steel was taken for it before; whether more is taken besides. */
  laid: string[];
  besides: boolean;
  /** Codes of what fails of it. */
  fails: string[];
}) {
  const [knowing, setKnowing] = useState<string[]>([]);
  const known = fails.every((code) => knowing.includes(code));
  const [title, setTitle] = useState(name);
  const [who, setWho] = useState("");
  const [due, setDue] = useState("");
  const [order, setOrder] = useState("");
  const [busy, setBusy] = useState(false);
  // one build, however often the button is pressed or the answer is lost
  const uid = useRef(crypto.randomUUID());
  const navigate = useNavigate();
  const toast = useToast();
  const queries = useQueryClient();
  const orders = useQuery({ queryKey: ["orders"], queryFn: () => ask(api.GET("/api/builds/orders")) });
  const open = (orders.data ?? []).filter((o) => o.state === "open") as Orders;
  const choose = (id: string) => {
    setOrder(id);
    const found = open.find((o) => String(o.id) === id);
    if (!found) return;
    setWho(found.who);
    setDue(found.promised ?? "");
  };
  // begun for an order, it is built for that order
  const its = open.find((o) => o.design === design);
  const took = useRef(false);
  useEffect(() => {
    if (!its || took.current) return;
    took.current = true;
    setOrder(String(its.id));
    setWho((now) => now || its.who);
    setDue((now) => now || (its.promised ?? ""));
  }, [its]);
  const purpose = open.find((o) => String(o.id) === order)?.purpose;
  const begin = () => {
    setBusy(true);
    const body = {
      uid: uid.current,
      design,
      document,
      title: title.trim() || name,
      who: who.trim(),
      due: due || null,
      order: order ? Number(order) : null,
      ...takesOf(plan ?? null),
      knowing: known ? fails : [],
      laid,
      besides,
    };
    ask(api.POST("/api/builds", { body }))
      .then((made) => {
        for (const key of [["book"], ["orders"], ASIDE_KEY, RACK_KEY]) void queries.invalidateQueries({ queryKey: key });
        navigate(buildAddress(made.id));
      })
      .catch((e) => toast(whatWentWrong(e)))
      .finally(() => setBusy(false));
  };
  const field = "min-h-11 w-full rounded-lg border border-edge bg-well px-3";
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        begin();
      }}
    >
      {open.length ? (
        <div>
          <Choice
            titled
            label="For an order"
            value={order}
            options={[{ value: "", label: "none" }, ...open.map((o) => ({ value: String(o.id), label: `${o.who}: ${o.title}` }))]}
            onChange={choose}
          />
        </div>
      ) : null}
      {purpose ? <ForWhat document={document} purpose={purpose} /> : null}
      <label>
        <span className="mb-0.5 block text-sm text-quiet">What it is called</span>
        <input className={field} value={title} maxLength={200} onChange={(e) => setTitle(e.target.value)} />
      </label>
      <div className="grid grid-cols-2 gap-3">
        <label>
          <span className="mb-0.5 block text-sm text-quiet">For whom</span>
          <input className={field} value={who} maxLength={120} onChange={(e) => setWho(e.target.value)} />
        </label>
        <label>
          <span className="mb-0.5 block text-sm text-quiet">Promised for</span>
          <input type="date" className={field} value={due} onChange={(e) => setDue(e.target.value)} />
        </label>
      </div>
      {fails.length ? (
        <label className="flex min-h-11 items-center gap-3 border-l-4 border-stop bg-stop-wash px-3 py-2">
          <input
            type="checkbox"
            className="h-5 w-5 shrink-0"
            checked={known}
            onChange={(e) => setKnowing(e.target.checked ? fails : [])}
          />
          This design will fail as it stands: see {fails.length === 1 ? "what the design says" : `the ${fails.length} findings`}.
          Begin it all the same.
        </label>
      ) : null}
      <div>
        <Button kind="main" type="submit" disabled={!ready || busy || !known}>
          <Hammer size={18} aria-hidden /> Begin the build
        </Button>
      </div>
    </form>
  );
}
