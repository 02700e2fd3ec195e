import { ArrowUp, Plus, X } from "lucide-react";
import { useState } from "react";
import type { ProblemItem, Stack } from "../../api/types";
import { Button } from "../../ui";
import { SteelChoice } from "../steels";
import { Measure } from "./fields/Measure";
import { sentence, under } from "./fields/problems";

type Layers = Stack["layers"];

/** The pile, top layer first as it stands on the bench. */
export function LayerList({
  layers,
  problems,
  onChange,
}: {
  layers: Layers;
  problems: ProblemItem[];
  onChange: (layers: Layers, what: string) => void;
}) {
  const [building, setBuilding] = useState(layers.length <= 1);
  const top = layers.length - 1;
  const put = (i: number, layer: Layers[number], what: string) =>
    onChange(
      layers.map((l, j) => (j === i ? layer : l)),
      `layers.${i}.${what}`,
    );
  const swap = (i: number, j: number) => {
    const next = [...layers];
    const [a, b] = [next[i], next[j]];
    if (!a || !b) return;
    next[i] = b;
    next[j] = a;
    onChange(next, "");
  };
  return (
    <div className="col-span-full">
      <div className="flex flex-wrap items-center gap-2">
        <span className="mr-auto text-sm text-quiet">
          {layers.length === 1 ? "1 layer" : `${layers.length} layers, top first`}
        </span>
        <Button compact onClick={() => setBuilding(!building)} pressed={building}>
          Alternate…
        </Button>
        <Button compact onClick={() => onChange([...layers, layers.at(-2) ?? layers[0] ?? { steel: "1084", thickness: 3 }], "")}>
          <Plus size={16} aria-hidden /> Layer
        </Button>
      </div>
      {building ? <Alternate layers={layers} onBuild={(next) => onChange(next, "")} /> : null}
      {problems
        .filter((p) => p.path === "")
        .map((p) => (
          <p key={p.wrong} role="alert" className="text-sm text-stop">
            {sentence(p)}
          </p>
        ))}
      <ol className="mt-1 flex flex-col gap-1">
        {/* in the page in the order it is seen, so that the tab key goes from the top down */}
        {[...layers.entries()].reverse().map(([i, layer]) => (
          <li
            key={i}
            className="grid grid-cols-[minmax(0,1fr)_6.6rem_auto] items-start gap-1"
            aria-label={`Layer ${i + 1} from the bottom`}
          >
            <SteelChoice
              label={`Steel of layer ${i + 1}`}
              value={layer.steel}
              onChange={(steel) => put(i, { ...layer, steel }, "steel")}
            />
            <Measure
              bare
              label={`Thickness of layer ${i + 1}`}
              unit="mm"
              value={layer.thickness}
              onChange={(v) => put(i, { ...layer, thickness: v ?? 0 }, "thickness")}
              problem={under(problems, `[${i}]`).map(sentence)[0]}
            />
            <span className="flex">
              <Button kind="quiet" compact label={`Layer ${i + 1} one up`} disabled={i === top} onClick={() => swap(i, i + 1)}>
                <ArrowUp size={15} aria-hidden />
              </Button>
              <Button
                kind="quiet"
                compact
                label={`Take layer ${i + 1} out`}
                disabled={layers.length === 1}
                onClick={() =>
                  onChange(
                    layers.filter((_, j) => j !== i),
                    "",
                  )
                }
              >
                <X size={15} aria-hidden />
              </Button>
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}

/** Fills the pile with two steels in turn, the first one outside on both faces when the count is odd. */
function Alternate({ layers, onBuild }: { layers: Layers; onBuild: (layers: Layers) => void }) {
  const [a, setA] = useState({ steel: layers[0]?.steel ?? "1084", thickness: layers[0]?.thickness ?? 4 });
  const [b, setB] = useState({ steel: layers[1]?.steel ?? "15n20", thickness: layers[1]?.thickness ?? 2.5 });
  const [count, setCount] = useState(Math.max(3, layers.length));
  return (
    <div className="my-2 grid grid-cols-2 gap-2 rounded-lg border border-line p-2">
      <SteelChoice label="Outer steel" value={a.steel} onChange={(steel) => setA({ ...a, steel })} />
      <SteelChoice label="Other steel" value={b.steel} onChange={(steel) => setB({ ...b, steel })} />
      <Measure label="Each" unit="mm" value={a.thickness} onChange={(v) => setA({ ...a, thickness: v ?? a.thickness })} />
      <Measure label="Each" unit="mm" value={b.thickness} onChange={(v) => setB({ ...b, thickness: v ?? b.thickness })} />
      <Measure
        label="Layers in all"
        unit=""
        whole
        value={count}
        onChange={(v) => setCount(Math.min(2000, Math.max(1, v ?? count)))}
      />
      <div className="self-end">
        <Button kind="main" onClick={() => onBuild(Array.from({ length: count }, (_, i) => (i % 2 ? { ...b } : { ...a })))}>
          Build the pile
        </Button>
      </div>
    </div>
  );
}
