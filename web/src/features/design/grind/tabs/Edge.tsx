import { api, ask, whatWentWrong } from "../../../../api/client";
import type { Document } from "../../../../api/types";
import { useToast } from "../../../../ui/toast";
import { useRackChange } from "../../../rack/useRack";
import { Columns, Shell } from "../../Panel";
import { useTable } from "../../table";
import { useGrinding, why } from "../grinding";
import { BehindChart, HandleFields, Offcuts, Weights } from "../MeasuresTab";
import { EdgeSteels } from "../Standing";
import { Measuring } from "./Bevels";

/** Thickness behind the edge, weight and balance, the steels at the edge, what is cut off. */
export function Edge() {
  const { design, document, core, change, name: title } = useTable();
  const rack = useRackChange();
  const { measures, length } = useGrinding();
  const toast = useToast();
  const m = measures.data;
  const keep = (name: string) =>
    ask(api.POST("/api/blade/offcut", { body: { document, name } }))
      .then((made) =>
        ask(api.POST("/api/designs", { body: { document: made.document as Document, name: `${title}: ${name}`.slice(0, 200) } })),
      )
      .then(() => toast(`The ${name} lies on the bench as a bar of its own.`))
      .catch((e) => toast(whatWentWrong(e)));
  const shelve = (name: string) =>
    rack(
      ask(api.POST("/api/rack/offcuts", { body: { design: design.id, document, name } })),
      `The ${name} lies in the rack, with the pattern it carries.`,
    );
  return (
    <Columns
      name="Edge and weight"
      left={
        <Shell title="Handle">
          <HandleFields document={document} materials={m?.handles ?? []} change={change} />
        </Shell>
      }
      right={
        m ? (
          <>
            <Weights measures={m} />
            <Offcuts measures={m} onKeep={(name) => void keep(name)} onRack={(name) => void shelve(name)} />
            {core ? <EdgeSteels core={core} /> : null}
          </>
        ) : null
      }
    >
      {m ? <BehindChart measures={m} bladeLength={length} /> : <Measuring wrong={why(measures.failure)} />}
    </Columns>
  );
}
