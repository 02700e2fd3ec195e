import type { Fall, StockSheet } from "../../../api/types";
import { usePicture } from "../../../api/worked";
import { useGrams } from "../../../app/session";
import { percent } from "../../../lib/units";
import { useTable } from "../table";

const PX = 700;

/** One bar getting smaller, to scale: each loss cut off with its name, from the piles down to the blade. */
export function Waterfall({ sheet }: { sheet: StockSheet }) {
  const { calm, ledger } = useTable();
  const grams = useGrams();
  const long = ledger?.summary?.length ?? sheet.have;
  const steel = usePicture(
    "/api/predict/bar.png",
    {
      document: { recipe: calm.recipe, off: calm.off },
      stages: null,
      view: "face",
      z: Math.round(sheet.thickness * 250) / 1000,
      x1: Math.min(long, 10 * sheet.width),
    },
    PX,
    "waterfall",
  ).data;
  const whole = sheet.put_in_mass;
  return (
    <section aria-label="Where the steel goes">
      <h3 className="mb-1 font-bold">From pile to blade: where the steel goes</h3>
      <ol className="grid grid-cols-[max-content_minmax(6rem,1fr)_max-content] items-center gap-x-3 gap-y-1 max-[800px]:grid-cols-[minmax(0,1fr)_max-content]">
        <Row says="put in, as the piles must be" mass={grams(whole)} share="100 %">
          <Bar steel={steel} from={0} to={1} />
        </Row>
        {sheet.falls.map((f) => (
          <Row
            key={f.cause}
            says={f.says}
            strong={f.left === 0 || kept(f)}
            mass={`${kept(f) ? "" : "−"}${grams(Math.abs(f.mass), whole)}`}
            share={percent(f.share)}
          >
            {kept(f) ? (
              <Bar steel={steel} from={0} to={f.share} />
            ) : (
              <>
                <Bar steel={steel} from={0} to={f.left} />
                <Bar from={f.left} to={f.left + Math.max(0, f.share)} />
              </>
            )}
          </Row>
        ))}
      </ol>
      <p className="mt-1 text-sm text-quiet">
        Every bar is drawn by its volume. What is cut off here is not all lost: stub, reserve and what is cut round the blade go
        on the rack.
      </p>
    </section>
  );
}

const kept = (f: Fall) => f.cause === "blade" || f.cause === "bar";

function Row({
  says,
  mass,
  share,
  strong,
  children,
}: {
  says: string;
  mass: string;
  share: string;
  strong?: boolean;
  children: React.ReactNode;
}) {
  return (
    <li className="col-span-full grid grid-cols-subgrid items-center">
      <span className={`max-[800px]:col-span-full ${strong ? "font-bold" : ""}`}>{says}</span>
      <span className="relative block h-5">{children}</span>
      <span className={`text-right font-mono text-sm ${strong ? "font-bold" : ""}`}>
        {mass} <span className="inline-block w-14 text-quiet">{share}</span>
      </span>
    </li>
  );
}

/** A stretch of the row: steel that is there, or (without a picture) what has just been cut from it. */
function Bar({ steel, from, to }: { steel?: string | null; from: number; to: number }) {
  const there = steel !== undefined;
  return (
    <span
      aria-hidden
      className={`absolute inset-y-0 ${there ? "rounded-sm bg-[#7b7770]" : "rounded-sm border border-dashed border-care bg-care-wash"}`}
      style={{
        left: `calc(${100 * from}% + ${there ? 0 : 2}px)`,
        width: `max(1px, calc(${100 * (to - from)}% - ${there ? 0 : 2}px))`,
        ...(steel ? { backgroundImage: `url(${steel})`, backgroundSize: "auto 160%", backgroundPosition: "left center" } : {}),
      }}
    />
  );
}
