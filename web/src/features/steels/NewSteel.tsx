import { useState } from "react";
import { api, ask, Problem, whatWentWrong } from "../../api/client";
import { useDegrees } from "../../app/session";
import { degrees, span } from "../../lib/units";
import { Button, Modal, Notice, Segments } from "../../ui";
import { Measure } from "../design/fields/Measure";
import { MeasureRows } from "../design/fields/MeasureRows";
import { useSteelChange } from "./useSteels";

type Way = "certificate" | "coupons";
type Estimate = { figures: Record<string, unknown>; said: string };
const ELEMENTS = ["C", "Mn", "Si", "Cr", "Ni", "Mo", "V", "W", "Cu"];

function keyOf(name: string, taken: string[]): string {
  const plain =
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 26) || "steel";
  let key = plain;
  for (let n = 2; taken.includes(key); n++) key = `${plain}-${n}`;
  return key;
}

/** A steel of the shop's own: off a certificate, or found out by coupons. */
export function NewSteel(props: { open: boolean; onClose: () => void; onAdded: (key: string) => void; taken: string[] }) {
  return (
    <Modal open={props.open} onClose={props.onClose} title="A steel of your own" wide>
      {props.open ? <Form {...props} /> : null}
    </Modal>
  );
}

function Form({ onClose, onAdded, taken }: { onClose: () => void; onAdded: (key: string) => void; taken: string[] }) {
  const [way, setWay] = useState<Way>("certificate");
  const [name, setName] = useState("");
  const [composition, setComposition] = useState<Record<string, number>>({ C: 0.8, Mn: 0.6, Si: 0.25 });
  const [coupons, setCoupons] = useState<Coupons>({
    spark: "many",
    water_hrc: null,
    oil: "not tried",
    look: "dark",
    rust: "not tried",
  });
  const [makers, setMakers] = useState<Makers>({});
  const [wanted, setWanted] = useState<string[]>([]);
  const [found, setFound] = useState<Estimate | null>(null);
  const [refused, setRefused] = useState("");
  const { problem, run } = useSteelChange();
  const look = () => {
    setRefused("");
    const asking =
      way === "certificate"
        ? ask(api.POST("/api/steels/estimate", { body: { composition, given: said(makers) } }))
        : ask(api.POST("/api/steels/coupons", { body: coupons }));
    asking.then(setFound).catch((e) => {
      setFound(null);
      // outside the laws the maker's figures are asked for, each in a field of its own
      const paths = e instanceof Problem ? e.body.problems.map((p) => p.path) : [];
      const asked = paths.filter((p) => p in MAKERS);
      if (asked.length) setWanted((old) => [...new Set([...old, ...asked])]);
      setRefused(
        asked.length && e instanceof Problem
          ? `What follows from this composition is not known here: ${(e.body.problems[0]?.wrong ?? "").replace(/^it is not known here: /, "")}. Put in its maker's figures.`
          : whatWentWrong(e),
      );
    });
  };
  const keep = async () => {
    const key = keyOf(name, taken);
    const figures: Record<string, unknown> = {
      name: name.trim() || "My steel",
      composition: found?.figures.composition ?? composition,
      ...(way === "certificate" ? said(makers) : {}),
    };
    if (way === "coupons") figures.family = "reclaimed";
    if (found?.said) figures.note = `Found by coupons: ${found.said}.`;
    if (await run(ask(api.POST("/api/steels", { body: { key, figures } })))) {
      onAdded(key);
      onClose();
    }
  };
  const wrong = refused || problem;
  return (
    <div className="space-y-4">
      <label className="block">
        <span className="mb-0.5 block text-sm text-quiet">What you call it</span>
        <input
          value={name}
          maxLength={60}
          onChange={(e) => setName(e.target.value)}
          placeholder="Leaf spring from the mill cart"
          className="min-h-11 w-full rounded-lg border border-edge bg-well px-3"
        />
      </label>
      <Segments<Way>
        label="How it is known"
        value={way}
        onChange={(w) => {
          setWay(w);
          setFound(null);
        }}
        options={[
          { value: "certificate", label: "I know its composition" },
          { value: "coupons", label: "I have only tried coupons" },
        ]}
      />
      {way === "certificate" ? (
        <div className="grid grid-cols-5 gap-2 max-[640px]:grid-cols-3">
          {ELEMENTS.map((e) => (
            <Measure
              key={e}
              label={e}
              unit="%"
              optional
              placeholder="–"
              value={composition[e]}
              onChange={(v) => {
                const { [e]: _, ...rest } = composition;
                setComposition(v ? { ...rest, [e]: v } : rest);
                setFound(null);
              }}
            />
          ))}
        </div>
      ) : (
        <CouponFields
          value={coupons}
          onChange={(c) => {
            setCoupons(c);
            setFound(null);
          }}
        />
      )}
      {wrong ? <Notice tone="stop">{wrong}</Notice> : null}
      {way === "certificate" && wanted.length ? (
        <MakersFields
          value={makers}
          onChange={(m) => {
            setMakers(m);
            setFound(null);
          }}
        />
      ) : null}
      {found ? <Found found={found} /> : null}
      <div className="flex justify-end gap-2">
        <Button onClick={look}>What would it be?</Button>
        <Button kind="main" disabled={!name.trim() || (way === "coupons" && !found)} onClick={() => void keep()}>
          Put it in the list
        </Button>
      </div>
    </div>
  );
}

type Coupons = {
  spark: "none" | "few" | "some" | "many" | "bushy";
  water_hrc: number | null;
  oil: "not tried" | "soft" | "hard";
  look: "dark" | "grey" | "bright";
  rust: "not tried" | "rusts" | "stays bright";
};

type Makers = {
  solidus?: number | null;
  low?: number | null;
  high?: number | null;
  hardens?: "yes" | "no";
  from?: number | null;
  to?: number | null;
  quench?: "water" | "fast_oil" | "medium_oil" | "slow_oil" | "air";
  hrc?: number | null;
  temper?: string;
};
const MAKERS = { solidus: 1, forge: 1, hardens: 1, austenitise: 1, quench: 1, as_quenched: 1, temper: 1 };
const TEMPERED = [150, 175, 200, 225, 250, 300, 350];

/** The maker's figures as the server takes them; what is not whole is left out and asked for again. */
function said(m: Makers): Record<string, unknown> {
  const out: Record<string, unknown> = {};
  if (m.solidus) out.solidus = m.solidus;
  if (m.low && m.high) out.forge = [m.low, m.high];
  if (m.hardens) out.hardens = m.hardens;
  if (m.hardens === "yes") {
    if (m.from && m.to) out.austenitise = [m.from, m.to];
    out.quench = m.quench ?? "air";
    if (m.hrc) out.as_quenched = [Math.max(0, m.hrc - 1), Math.min(70, m.hrc + 1)];
    const table = (m.temper ?? "")
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map(Number);
    if (table.length === TEMPERED.length && table.every(Number.isFinite)) out.temper = table;
  }
  return out;
}

function MakersFields({ value, onChange }: { value: Makers; onChange: (m: Makers) => void }) {
  const heat = useDegrees();
  const put = (next: Partial<Makers>) => onChange({ ...value, ...next });
  return (
    <fieldset className="rounded-xl border border-line p-3">
      <legend className="px-1 font-bold">Its maker's figures</legend>
      <div className="grid grid-cols-3 gap-3 max-[640px]:grid-cols-1">
        <MeasureRows<Makers>
          of={value}
          put={put}
          rows={[
            { name: "solidus", label: "Begins to melt at", unit: "C", placeholder: "–" },
            { name: "low", label: "Forged from", unit: "C", placeholder: "–" },
            { name: "high", label: "to", unit: "C", placeholder: "–" },
          ]}
        />
      </div>
      <div className="mt-2">
        <Field label="Hardens">
          <Segments<"yes" | "no">
            label="Hardens"
            value={value.hardens ?? "no"}
            onChange={(hardens) => put({ hardens })}
            options={[
              { value: "no", label: "no" },
              { value: "yes", label: "yes" },
            ]}
          />
        </Field>
      </div>
      {value.hardens === "yes" ? (
        <div className="mt-2 grid grid-cols-3 gap-3 max-[640px]:grid-cols-1">
          <MeasureRows<Makers>
            of={value}
            put={put}
            rows={[
              { name: "from", label: "Hardened from", unit: "C", placeholder: "–" },
              { name: "to", label: "to", unit: "C", placeholder: "–" },
              { name: "hrc", label: "As quenched", unit: "HRC", placeholder: "–" },
            ]}
          />
          <Field label="Quench">
            <Segments<NonNullable<Makers["quench"]>>
              label="Quench"
              snug
              value={value.quench ?? "air"}
              onChange={(quench) => put({ quench })}
              options={[
                { value: "water", label: "water" },
                { value: "fast_oil", label: "fast oil" },
                { value: "medium_oil", label: "oil" },
                { value: "air", label: "air" },
              ]}
            />
          </Field>
          <label className="col-span-2 block max-[640px]:col-span-1">
            <span className="mb-0.5 block text-sm text-quiet">
              HRC after two hours at {TEMPERED.map((t) => degrees(t, heat)).join(", ")} °{heat}
            </span>
            <input
              className="min-h-11 w-full rounded-lg border border-edge bg-well px-3 font-mono"
              value={value.temper ?? ""}
              placeholder="61 61 60 59 59 58 58"
              onChange={(e) => put({ temper: e.target.value })}
            />
          </label>
        </div>
      ) : null}
    </fieldset>
  );
}

function CouponFields({ value, onChange }: { value: Coupons; onChange: (c: Coupons) => void }) {
  return (
    <div className="space-y-3">
      <Field label="Bursts in the sparks at the grinder">
        <Segments<Coupons["spark"]>
          label="Bursts in the sparks"
          value={value.spark}
          onChange={(spark) => onChange({ ...value, spark })}
          options={[
            { value: "none", label: "none, straight lines" },
            { value: "few", label: "a few" },
            { value: "some", label: "some" },
            { value: "many", label: "many" },
            { value: "bushy", label: "bushy, close to the wheel" },
          ]}
        />
      </Field>
      <div className="grid grid-cols-2 gap-3 max-[640px]:grid-cols-1">
        <Measure
          label="Thin coupon quenched in water"
          unit="HRC"
          optional
          placeholder="not tried"
          value={value.water_hrc}
          onChange={(water_hrc) => onChange({ ...value, water_hrc })}
        />
        <Field label="4 mm coupon in fast oil, a file on it">
          <Segments<Coupons["oil"]>
            label="Coupon in oil"
            snug
            value={value.oil}
            onChange={(oil) => onChange({ ...value, oil })}
            options={[
              { value: "not tried", label: "not tried" },
              { value: "soft", label: "bites" },
              { value: "hard", label: "skates" },
            ]}
          />
        </Field>
        <Field label="A wet night does to it">
          <Segments<Coupons["rust"]>
            label="Rust"
            snug
            value={value.rust}
            onChange={(rust) => onChange({ ...value, rust })}
            options={[
              { value: "not tried", label: "not tried" },
              { value: "rusts", label: "rust" },
              { value: "stays bright", label: "nothing" },
            ]}
          />
        </Field>
        <Field label="Hardened coupon, etched">
          <Segments<Coupons["look"]>
            label="Etched coupon"
            snug
            value={value.look}
            onChange={(look) => onChange({ ...value, look })}
            options={[
              { value: "dark", label: "dark" },
              { value: "grey", label: "grey" },
              { value: "bright", label: "bright" },
            ]}
          />
        </Field>
      </div>
      <p className="text-sm text-quiet">
        As-quenched coupons are brittle as glass: wear eye protection, break them in a vice under a rag. Plated, painted or
        galvanised stock gives off poisonous fumes when heated: leave it.
      </p>
    </div>
  );
}

function Field({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div>
      <span className="mb-0.5 block text-sm text-quiet">{label}</span>
      {children}
    </div>
  );
}

function Found({ found }: { found: Estimate }) {
  const heat = useDegrees();
  const f = found.figures as {
    composition: Record<string, number>;
    family: string;
    forge: number[] | null;
    weld: number[] | null;
    austenitise: number[] | null;
    as_quenched: number[] | null;
    quench: string | null;
    tone: Record<string, number>;
  };
  const lines: [string, string][] = [
    [
      "Composition",
      Object.entries(f.composition)
        .map(([e, v]) => `${e} ${v}`)
        .join(" · "),
    ],
    ["Forge", f.forge ? span(f.forge, heat) : "not known here"],
    ["Weld", f.weld ? span(f.weld, heat) : "not for welding"],
    [
      "Harden",
      f.austenitise
        ? `${span(f.austenitise, heat)}, ${f.quench?.replace("_", " ")}, ${f.as_quenched?.join(" to ")} HRC`
        : "it does not",
    ],
    ["Etched tone", `${f.tone.ferric} of 10`],
  ];
  return (
    <div role="status" className="rounded-xl border border-line bg-well p-4">
      <h3 className="font-bold">Worked out, to be tried on a coupon before you rely on it</h3>
      {found.said ? <p className="text-quiet">{found.said}.</p> : null}
      <dl className="mt-2 grid grid-cols-[8rem_1fr] gap-y-1">
        {lines.map(([k, v]) => (
          <div key={k} className="contents">
            <dt className="text-quiet">{k}</dt>
            <dd>{v}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
