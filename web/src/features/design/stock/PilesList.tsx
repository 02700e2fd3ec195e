import { api, ask, whatWentWrong } from "../../../api/client";
import type { MadeSo, PileWanted, StockSheet } from "../../../api/types";
import { useWorkedOut } from "../../../api/worked";
import { useGrams, useSay, useUnit } from "../../../app/session";
import { length, sizes } from "../../../lib/units";
import { Button } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { numberOf } from "../bars";
import { useTable } from "../table";
import { Worse } from "../Worse";

/** Every pile as it is in the design and as it must be, with the one click that makes it so. */
export function PilesList({ sheet }: { sheet: StockSheet }) {
  const { document, change, undo } = useTable();
  const unit = useUnit();
  const toast = useToast();
  const make = (piles: PileWanted[]) =>
    ask(api.POST("/api/stock/made-so", { body: { document, bars: piles.map((p) => p.bar) } }))
      .then((made) => {
        change({ type: "document", document: made.document });
        const [one] = piles;
        toast(
          one && piles.length === 1 ? `The pile is ${length(one.cut, unit)} long now.` : "The piles are as they must be now.",
          undo,
        );
      })
      .catch((e) => toast(whatWentWrong(e)));
  const other = sheet.piles.filter((p) => Math.abs(p.cut - p.has) > 0.01);
  const { recipe, blade, off, stock, fire } = document;
  const so = useWorkedOut<MadeSo>(
    "made-so",
    { document: { recipe, blade, off, stock, fire } },
    (body, signal) => ask(api.POST("/api/stock/made-so", { body, signal })),
    other.length > 0,
  );
  const worse = other.length ? (so.data?.worse ?? []) : [];
  return (
    <section aria-label="Piles">
      <div className="mb-1 flex items-center justify-between gap-3">
        <h3 className="font-bold">{sheet.piles.length === 1 ? "The pile" : `${sheet.piles.length} piles`}</h3>
        {other.length > 1 ? (
          <Button compact onClick={() => void make(other)}>
            Make all piles so
          </Button>
        ) : null}
      </div>
      {worse.length ? (
        <div
          className={`mb-1 border-l-4 px-3 py-1.5 ${worse.some((a) => a.finding.grade === "stop") ? "border-stop bg-stop-wash" : "border-care bg-care-wash"}`}
        >
          <p>With every pile as it must be, the design is worse off:</p>
          <Worse worse={worse} />
          {worse.some((a) => a.finding.code === "twist_tears") ? (
            <p className="text-sm">
              A shorter bar with the same turns is twisted tighter: take turns off first, or leave the pile as it is.
            </p>
          ) : null}
        </div>
      ) : null}
      <ul className="flex flex-col">
        {sheet.piles.map((p) => (
          <Pile
            key={p.bar}
            pile={p}
            name={numberOf(document, p.bar)}
            alone={sheet.piles.length === 1}
            onMake={() => void make([p])}
          />
        ))}
      </ul>
      {sheet.groups.map((g) => (
        <p key={g.bars.join()} className="mt-1 rounded-lg bg-note-wash px-3 py-1.5">
          Bars {list(g.bars.map((b) => numberOf(document, b)))} are alike up to step {g.steps}: forge them as one from a pile of{" "}
          <b className="font-mono">{length(g.has, unit)}</b>
          {Math.abs(g.has - g.length) > 0.5 ? ` (it must be ${length(g.length, unit)})` : ""}, and cut them apart then.
        </p>
      ))}
    </section>
  );
}

function Pile({ pile, name, alone, onMake }: { pile: PileWanted; name: string; alone: boolean; onMake: () => void }) {
  const unit = useUnit();
  const grams = useGrams();
  const say = useSay();
  const so = Math.abs(pile.cut - pile.has) <= 0.01;
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line py-1.5">
      <span className="min-w-40 flex-1">
        <b>{alone ? "" : `Bar ${name}: `}</b>
        {say(pile.label)}
        <span className="block text-sm text-quiet">
          {pile.layers ? `${pile.layers} layers, ` : ""}
          {sizes([pile.width, pile.height], unit)}, {grams(pile.mass_needs)}
        </span>
      </span>
      <span className="text-right">
        must be <b className="font-mono">{length(pile.needs, unit)}</b> long
        <span className="block text-sm text-quiet">is {length(pile.has, unit)}</span>
      </span>
      <span className="w-44 text-right">
        {so ? (
          <span className="text-sm text-quiet">as it must be</span>
        ) : (
          <Button compact onClick={onMake}>
            Make it {length(pile.cut, unit)}
          </Button>
        )}
      </span>
    </li>
  );
}

function list(names: string[]): string {
  return names.length > 1 ? `${names.slice(0, -1).join(", ")} and ${names.at(-1)}` : (names[0] ?? "");
}
