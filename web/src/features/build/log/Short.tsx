import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { BuildTold, WayOut } from "../../../api/types";
import { Only, useSay, useUnit } from "../../../app/session";
import { type LengthUnit, length } from "../../../lib/units";
import { Button } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { Picture } from "../../design/views/Picture";
import { Worse } from "../../design/Worse";
import { nowHere } from "../keeper";
import { useBuild } from "../useBuild";
import { buildAddress } from "../where";

/** Nobody sees a tenth of a mm on a bar. */
const near = (mm: number) => Math.round(2 * mm) / 2;
const BOX = { width: 300, height: 68 };

/** In whole mm: the bar less all that it must hold; what is left is for the reserve, below nothing it is missing. So that what is shown adds
 * up, what is known least well takes what rounding leaves over: the bad ends, or the bar where there are none. */
export function sumOf(told: BuildTold) {
  const [blade, hold, reserve, left] = [
    Math.round(told.blade),
    Math.round(told.hold),
    Math.round(told.reserve),
    Math.round(told.sure),
  ];
  const ends = told.ends > 0 ? Math.max(0, Math.round(told.have) - blade - hold - left) : 0;
  return { have: blade + hold + ends + left, blade, hold, ends, reserve, left };
}

/** In a line: how much it is short of, or how much of its reserve is gone. */
export function shortText(told: BuildTold, unit: LengthUnit): string {
  const { left, reserve } = sumOf(told);
  return left >= 0
    ? `The bar is ${length(reserve - left, unit)} into its reserve of ${length(reserve, unit)}`
    : `The bar is ${length(-left, unit)} too short, its reserve of ${length(reserve, unit)} not reckoned in`;
}

/** How that comes about, so that everybody can add it up. */
function Sum({ told }: { told: BuildTold }) {
  const unit = useUnit();
  const { have, blade, hold, ends, left } = sumOf(told);
  const rows: [string, number][] = [
    ["blade and tang take", blade],
    ["stub to hold it by", hold],
    ["bad ends", ends],
  ];
  return (
    <table aria-label="How long it must be" className="mt-1">
      <tbody>
        <tr>
          <td className="pr-4">It comes out, as it is being made</td>
          <td className="text-right font-mono">{length(have, unit)}</td>
        </tr>
        {rows
          .filter(([, mm]) => mm > 0)
          .map(([what, mm]) => (
            <tr key={what}>
              <td className="pr-4">{what}</td>
              <td className="text-right font-mono">−{length(mm, unit)}</td>
            </tr>
          ))}
        <tr className="border-t border-line font-semibold">
          <td className="pr-4">{left >= 0 ? "left for the reserve" : "missing"}</td>
          <td className="text-right font-mono">{length(Math.abs(left), unit)}</td>
        </tr>
      </tbody>
    </table>
  );
}

/** Where one is at work: that the bar is short, in a line, and the way to what may still give way. */
export function ShortHere() {
  const { told, info } = useBuild();
  const unit = useUnit();
  if (told.wrong || info.state === "done" || !told.need || !told.short) return null;
  return (
    <p
      role="status"
      className={`rounded-lg border-l-4 px-4 py-2 text-lg ${sumOf(told).left >= 0 ? "border-care bg-care-wash" : "border-stop bg-stop-wash"}`}
    >
      {shortText(told, unit)}.{" "}
      <Link className="underline" to={buildAddress(info.id, "log")}>
        See what may still give way
      </Link>
    </p>
  );
}

/** Whether the bar, as it is being made, is long enough; what may still give way where it is not. */
export function Short() {
  const { told, info, known } = useBuild();
  const unit = useUnit();
  const measured = known.records.filter((r) => r.entry.kind === "measured").length;
  const ways = useQuery({
    queryKey: ["build-ways", info.id, info.plan, measured],
    queryFn: () => ask(api.GET("/api/builds/{build_id}/ways", { params: { path: { build_id: info.id } } })),
    enabled: told.short && known.link === "here",
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (told.wrong || info.state === "done" || !told.need) return null;
  if (!told.short)
    return (
      <p className="rounded-lg border-l-4 border-note bg-note-wash px-4 py-2">
        As it is being made the bar comes out {length(told.have, unit)} long: {length(near(told.spare), unit)} to spare, the
        reserve and the bad ends reckoned in.
      </p>
    );
  const into = sumOf(told).left >= 0;
  return (
    <section
      aria-label="The bar is short"
      className={`rounded-lg border-l-4 px-4 py-3 ${into ? "border-care bg-care-wash" : "border-stop bg-stop-wash"}`}
    >
      <h2 className="text-lg font-bold">{shortText(told, unit)}</h2>
      <Sum told={told} />
      {into ? null : <p className="mt-2">What may still give way, each worked out:</p>}
      {ways.isFetching ? <p className="mt-2 animate-pulse text-quiet">Looking for what may still give way…</p> : null}
      {ways.error ? <p className="mt-2">{whatWentWrong(ways.error)}</p> : null}
      {ways.data && !ways.data.ways.length ? (
        <p className="mt-2">No one number alone makes it long enough any more. Weld on a piece, or make a shorter blade of it.</p>
      ) : null}
      <ul className="mt-3 grid grid-cols-[repeat(auto-fill,minmax(20rem,1fr))] gap-3">
        {ways.data?.ways.map((w) => (
          <Way key={w.give} way={w} />
        ))}
      </ul>
    </section>
  );
}

function Way({ way }: { way: WayOut }) {
  const { info, keeper } = useBuild();
  const unit = useUnit();
  const say = useSay();
  const toast = useToast();
  const queries = useQueryClient();
  const [busy, setBusy] = useState(false);
  const { recipe, blade, off } = way.document;
  const take = () => {
    setBusy(true);
    const body = { id: crypto.randomUUID(), at: nowHere(), document: way.document, why: say(way.says), base: info.plan };
    ask(api.POST("/api/builds/{build_id}/amend", { params: { path: { build_id: info.id } }, body }))
      .then(async () => {
        await keeper.sync();
        void queries.invalidateQueries({ queryKey: ["build-ways", info.id] });
        toast(`The plan is changed: ${say(way.says)}`);
      })
      .catch((e) => toast(whatWentWrong(e)))
      .finally(() => setBusy(false));
  };
  return (
    <li className="overflow-hidden rounded-lg border border-line bg-well" aria-label={say(way.says)}>
      {blade ? (
        <div className="grid place-items-center bg-plate py-1">
          <Picture
            path="/api/predict/blade.png"
            lane={`build-way-${way.give}`}
            label="Right face of the blade so"
            box={BOX}
            body={{ document: { recipe, blade, off }, side: "right", margin: 1.8, book: true }}
          />
        </div>
      ) : null}
      <div className="p-3">
        <p className="font-semibold">{say(way.says)}</p>
        <p className="mb-1 text-sm text-quiet">{way.spare > 0.5 ? `${length(way.spare, unit)} to spare` : "Just enough"} then.</p>
        <Worse worse={way.worse} />
        <Only needs="smith">
          <Button compact disabled={busy} onClick={take}>
            Change the plan so
          </Button>
        </Only>
      </div>
    </li>
  );
}
