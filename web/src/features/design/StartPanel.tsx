import { api, ask, whatWentWrong } from "../../api/client";
import type { Assembly, Bar, BarId, Canister, Stack, Start } from "../../api/types";
import { Choice } from "../../ui";
import { useToast } from "../../ui/toast";
import { BarsList } from "./BarsList";
import { copied, named, numberOf, pathOf } from "./bars";
import { under } from "./fields/problems";
import type { Schema, Values } from "./fields/schema";
import { Inserts } from "./Inserts";
import { LayerList } from "./LayerList";
import { Fields, Shell } from "./Panel";
import type { PanelCommon } from "./StepPanel";
import { Sums } from "./Sums";

/** What the open bar begins as, and its fields. */
export function StartPanel(props: PanelCommon & { onOpen: (bar: BarId) => void }) {
  const { catalogue, document, bar, recipe, problems, change, onOpen } = props;
  const start = recipe.start;
  const own = under(problems, `${pathOf(document, bar)}.start`);
  const toast = useToast();
  const number = numberOf(document, bar);
  const put = (values: Values, what: string) => {
    const next = { ...values };
    if (start.kind === "assembly" && what === "join") joinMeasures(next);
    change({ type: "start", bar, start: next as unknown as Start, what });
  };
  const become = (kind: string) => {
    if (kind === start.kind) return;
    ask(api.POST("/api/predict/fresh-bar", { body: { document, bar, kind } }))
      .then((made) => {
        const next = settledIn(made.bar as unknown as Bar, recipe);
        change({ type: "replace", bar, with: next });
        // joined bars have the open one inside them: the joint is what was asked for
        if (next.id && next.id !== bar) onOpen(next.id);
      })
      .catch((e) => toast(`It stays as it is. ${whatWentWrong(e)}`));
  };
  const leaveOut = { stack: "layers", assembly: "bars", canister: "inserts", solid: undefined }[start.kind];
  const kinds = Object.keys(catalogue.starts).map((kind) => ({
    value: kind,
    label: catalogue.step_words[kind]?.name ?? kind,
    hint: catalogue.step_words[kind]?.about,
  }));
  return (
    <Shell title={number ? `Bar ${number} begins as` : "It begins as"}>
      <div className="col-span-full">
        <Choice label="Begins as" value={start.kind} options={kinds} onChange={become} />
      </div>
      <Fields
        schema={catalogue.starts[start.kind] as Schema}
        values={start as unknown as Values}
        problems={own}
        onChange={put}
        leaveOut={leaveOut}
      >
        {start.kind === "stack" ? (
          <LayerList
            layers={start.layers}
            problems={under(own, "layers")}
            onChange={(layers, what) => change({ type: "start", bar, start: { ...(start as Stack), layers }, what })}
          />
        ) : null}
        {start.kind === "assembly" ? (
          <BarsList document={document} bar={bar} start={start as Assembly} problems={own} change={change} onOpen={onOpen} />
        ) : null}
        {start.kind === "canister" ? (
          <Inserts
            catalogue={catalogue}
            start={start as Canister}
            problems={under(own, "inserts")}
            onChange={(inserts, what) => change({ type: "start", bar, start: { ...(start as Canister), inserts }, what })}
          />
        ) : null}
      </Fields>
      <Sums
        document={document}
        bar={bar}
        step={null}
        onUse={(field, value) => put({ ...(start as unknown as Values), [field]: value }, field)}
      />
    </Shell>
  );
}

/** Another bar in the place of one: joined bars have the old one in them, which keeps its name; any other takes that over. */
function settledIn(made: Bar, old: Bar): Bar {
  const inside = made.start.kind === "assembly" && (made.start.bars as Bar[]).length;
  if (!inside) return named({ ...made, id: old.id });
  const [kept, ...others] = made.start.kind === "assembly" ? (made.start.bars as Bar[]) : [];
  return named({ ...made, start: { ...made.start, bars: [kept, ...others.map((b) => copied(b))] } as Bar["start"] });
}

const MEASURES: Record<string, Values> = {
  stacked: {},
  side_by_side: {},
  scarf: { angle: 30 },
  slot: { depth: 3, width: 10 },
  plug: { x: 30, y: 0, diameter: 12 },
  jacket: { wall: 4 },
};

/** Each join has its own measures and no others. */
function joinMeasures(values: Values) {
  const wanted = MEASURES[String(values.join)] ?? {};
  for (const name of ["angle", "depth", "width", "x", "y", "diameter", "wall"]) {
    if (!(name in wanted)) delete values[name];
    else values[name] ??= wanted[name] ?? null;
  }
}
