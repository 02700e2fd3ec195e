import type { ProblemItem } from "../../../../api/types";
import { Findings } from "../../Findings";
import { Columns, Shell } from "../../Panel";
import { ScaleCounted } from "../../ScaleCounted";
import { useTable } from "../../table";
import { NeedFields } from "../NeedFields";
import { PilesList } from "../PilesList";
import { Standing } from "../Standing";
import { useStock } from "../stock";
import { Waterfall } from "../Waterfall";
import { Ways } from "../Ways";

/** What every pile must be, where the steel goes between pile and blade, and what may give way. */
export function Piles() {
  const { problems } = useTable();
  const { sheet } = useStock();
  const wrong: ProblemItem[] = sheet.failure?.kind === "invalid" ? sheet.failure.problems : [];
  const told = wrong.length ? null : sheet.data;
  return (
    <Columns
      name="Piles"
      scrolls
      left={
        <Shell title="What the bar must be">
          <NeedFields />
        </Shell>
      }
      right={
        <>
          <Findings findings={told?.findings ?? []} problems={wrong.length ? wrong : problems} />
          {told ? <Ways /> : null}
        </>
      }
    >
      {told ? (
        <>
          <Standing sheet={told} />
          <ScaleCounted counted={told.scale} />
          <PilesList sheet={told} />
          <Waterfall sheet={told} />
        </>
      ) : wrong.length ? (
        <p className="m-auto max-w-md text-center text-quiet">
          What the stock must be cannot be said yet: see at the right what stands in the way.
        </p>
      ) : (
        <p className="m-auto animate-pulse text-quiet">Working out the stock…</p>
      )}
    </Columns>
  );
}
