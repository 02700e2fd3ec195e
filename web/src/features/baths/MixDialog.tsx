import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, whatWentWrong } from "../../api/client";
import type { EtchBath } from "../../api/types";
import { useSay } from "../../app/session";
import { Button, Choice, Modal, Notice, Segments } from "../../ui";
import { useToast } from "../../ui/toast";
import { Measure } from "../design/fields/Measure";
import { First } from "../design/finish/First";
import { ETCHANT, USUAL_STRENGTH } from "../design/finish/words";
import { BATHS_KEY } from "./key";

type What = NonNullable<EtchBath["what"]>;
type Stock = "be" | "percent" | "hexahydrate" | "anhydrous";
/** What each is usually mixed from. */
const STOCK: Record<string, { stock: Stock; value: number }> = {
  ferric: { stock: "be", value: 42 },
  "ferric+muriatic": { stock: "be", value: 42 },
  muriatic: { stock: "percent", value: 31.45 },
  nital: { stock: "percent", value: 70 },
  vinegar: { stock: "percent", value: 25 },
  sulphuric: { stock: "percent", value: 96 },
};
const FERRIC: { value: Stock; label: string }[] = [
  { value: "be", label: "solution, °Bé" },
  { value: "hexahydrate", label: "crystals" },
  { value: "anhydrous", label: "dry" },
];

const ml = (v: number) => (v < 1000 ? `${v.toFixed(0)} ml` : `${(v / 1000).toFixed(2)} l`);
const g = (v: number) => (v < 1000 ? `${v.toFixed(0)} g` : `${(v / 1000).toFixed(2)} kg`);

/** How much of what into how much of what, in either direction; the order first. */
export function MixDialog({ onClose }: { onClose: () => void }) {
  const [what, setWhat] = useState<What>("ferric");
  const [way, setWay] = useState<"wanted" | "there">("wanted");
  const [strength, setStrength] = useState<number | null>(10);
  const [litres, setLitres] = useState<number | null>(4);
  const [stock, setStock] = useState<Stock>("be");
  const [value, setValue] = useState<number | null>(42);
  const [parts, setParts] = useState<{ stock: number | null; solvent: number | null }>({ stock: 1000, solvent: 4000 });
  const [name, setName] = useState("");
  const toast = useToast();
  const queries = useQueryClient();
  const say = useSay();
  const dry = stock === "hexahydrate" || stock === "anhydrous";
  const both = way === "there" && !dry;
  const body = {
    what,
    stock,
    value: dry ? 0 : (value ?? 0),
    ...(both ? { stock_ml: parts.stock, solvent_ml: parts.solvent } : { strength, litres }),
  };
  const found = useQuery({
    queryKey: ["mix", JSON.stringify(body)],
    queryFn: () => ask(api.POST("/api/finish/mix", { body })),
    enabled: what !== "coffee",
    placeholderData: (old) => old,
    retry: false,
  });
  const told = found.error || what === "coffee" ? null : found.data;
  const keep = async () => {
    const bath = {
      what,
      strength: told?.strength ?? strength ?? 10,
      litres: told?.litres ?? litres ?? 1,
      temperature: 20,
      iron: 0,
    };
    try {
      const mixed = new Date().toISOString().slice(0, 10);
      await ask(api.POST("/api/finish/baths", { body: { name: name.trim() || (ETCHANT[what] ?? what), bath, mixed } }));
      await queries.invalidateQueries({ queryKey: BATHS_KEY });
      toast("It is among your baths.");
      onClose();
    } catch (e) {
      toast(whatWentWrong(e));
    }
  };
  return (
    <Modal open onClose={onClose} title="Mix a bath" wide>
      <div className="grid gap-5 min-[760px]:grid-cols-2">
        <div className="grid auto-rows-min grid-cols-2 gap-3">
          <div className="col-span-full">
            <Choice
              titled
              label="Etchant"
              value={what}
              options={Object.entries(ETCHANT).map(([v, label]) => ({ value: v as What, label }))}
              onChange={(next) => {
                const usual = STOCK[next];
                setWhat(next);
                setStrength(USUAL_STRENGTH[next] ?? 10);
                setStock(usual?.stock ?? "percent");
                setValue(usual?.value ?? 10);
              }}
            />
          </div>
          {what.startsWith("ferric") ? (
            <div className="col-span-full">
              <Segments
                snug
                titled
                label="From"
                value={stock}
                options={FERRIC}
                onChange={(s) => {
                  setStock(s);
                  if (s === "be") setValue(42);
                }}
              />
            </div>
          ) : null}
          {dry || what === "coffee" ? null : (
            <Measure label="The stock has" unit={stock === "be" ? "°Bé" : "%"} value={value} onChange={setValue} />
          )}
          {dry || what === "coffee" ? null : (
            <div className="col-span-full">
              <Segments
                snug
                titled
                label="Known"
                value={way}
                options={[
                  { value: "wanted", label: "what is wanted" },
                  { value: "there", label: "what I have" },
                ]}
                onChange={setWay}
              />
            </div>
          )}
          {both ? (
            <>
              <Measure label="Stock" unit="ml" value={parts.stock} onChange={(v) => setParts({ ...parts, stock: v })} />
              <Measure label="Into" unit="ml" value={parts.solvent} onChange={(v) => setParts({ ...parts, solvent: v })} />
            </>
          ) : (
            <>
              <Measure label="Strength" unit="%" value={strength} onChange={setStrength} />
              <Measure label="Bath" unit="l" value={litres} onChange={setLitres} />
            </>
          )}
          <label className="col-span-full">
            <span className="mb-0.5 block text-sm text-quiet">Called</span>
            <input
              value={name}
              maxLength={120}
              placeholder={`${ETCHANT[what]}, the long tube`}
              onChange={(e) => setName(e.target.value)}
              className="min-h-11 w-full rounded-lg border border-edge bg-well px-3"
            />
          </label>
        </div>
        <div className="flex flex-col gap-3">
          {told ? <First order={told.order} never={told.never_with} /> : null}
          {found.error ? <Notice tone="stop">{whatWentWrong(found.error)}</Notice> : null}
          {what === "coffee" ? (
            <p>
              {((strength ?? 10) * 10 * (litres ?? 1)).toFixed(0)} g of powder into {litres ?? 1} l of hot water; cooled to hand
              warm.
            </p>
          ) : null}
          {told ? (
            <>
              <p className="text-lg" aria-live="polite">
                <b>{told.stock ? ml(told.stock) : g(told.stock_grams)}</b> of{" "}
                {dry ? (stock === "anhydrous" ? "dry chloride" : "crystals") : "stock"}
                {told.stock ? ` (${g(told.stock_grams)})` : ""} into <b>{ml(told.solvent)}</b> of {told.solvent_name}:{" "}
                {told.litres.toFixed(2)} l of <b>{told.strength.toFixed(1)} %</b>.
              </p>
              {told.capacity ? (
                <p className="text-quiet">It takes up {told.capacity.toFixed(0)} g of iron, and is renewed at a third of that.</p>
              ) : null}
              {told.keeping ? <Notice tone="stop">{say(told.keeping)}</Notice> : null}
            </>
          ) : null}
          <div className="mt-auto flex justify-end gap-2">
            <Button onClick={onClose}>Leave it</Button>
            <Button kind="main" disabled={what !== "coffee" && (!told || !!told.keeping)} onClick={() => void keep()}>
              It is mixed: keep it
            </Button>
          </div>
        </div>
      </div>
    </Modal>
  );
}
