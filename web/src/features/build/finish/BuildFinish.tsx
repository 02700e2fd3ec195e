import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { FinishSheet } from "../../../api/types";
import { useSay, useUnits } from "../../../app/session";
import { Notice } from "../../../ui";
import { First } from "../../design/finish/First";
import { Relief } from "../../design/finish/Relief";
import { minutes } from "../../design/finish/words";
import { Picture } from "../../design/views/Picture";
import { goalText, nameOf, textOf } from "../quantity";
import { TimerButtons } from "../sheet/TimerButtons";
import { useBuild } from "../useBuild";
import { buildAddress } from "../where";
import { EdgeTested, useMade } from "./EdgeTested";
import { Traced } from "./Traced";

const LAST_DAY = new Set(["sand", "etch", "mark", "colour", "fit_up", "peen", "coats", "sharpen", "sheath", "look"]);
const BOX = { width: 420, height: 110 };

/** The last day of this build: what was planned beside what was measured, its film as it was made, and what went wrong. */
export function BuildFinish() {
  const { info, told, of, known } = useBuild();
  const say = useSay();
  const units = useUnits();
  const document = useMade();
  const sheet = useQuery({
    queryKey: ["build-finish", info.id, info.plan, known.records.length],
    queryFn: () => ask(api.POST("/api/finish/sheet", { body: { document: document as never } })) as Promise<FinishSheet>,
    enabled: !!document?.blade,
    retry: false,
  });
  const ops = told.operations.filter((o) => LAST_DAY.has(o.kind) && !o.gone);
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 py-4 max-[700px]:px-3">
      <div className="mx-auto grid max-w-6xl gap-6 min-[900px]:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <section aria-label="The last day">
          <h1 className="mb-2 text-2xl font-bold">The last day</h1>
          <table className="w-full text-left">
            <thead className="text-sm text-quiet">
              <tr className="border-b border-line">
                <th className="py-1 font-normal">What is done</th>
                <th className="text-right font-normal">Planned</th>
                <th className="text-right font-normal">Took</th>
                <th className="pl-4 font-normal">To reach, and as measured</th>
              </tr>
            </thead>
            <tbody>
              {ops.map((o) => {
                const state = of(o.id);
                return (
                  <tr key={o.id} className="border-b border-line align-top">
                    <td className="py-1.5 pr-2">
                      <Link className="underline underline-offset-4" to={buildAddress(info.id, "sheet", o.id)}>
                        {say(o.title)}
                      </Link>
                      <span className="block text-sm text-quiet">{state.standing === "open" ? "" : state.standing}</span>
                    </td>
                    <td className="py-1.5 pl-3 text-right font-mono whitespace-nowrap">{minutes(o.attended)}</td>
                    <td className="py-1.5 pl-3 text-right font-mono whitespace-nowrap">
                      {state.minutes === null ? "–" : minutes(state.minutes)}
                    </td>
                    <td className="py-1.5 pl-4">
                      {o.targets.map((t) => {
                        const read = state.measured[t.quantity];
                        return (
                          <span key={t.quantity + t.says} className="block">
                            {nameOf(t)} {goalText(t.quantity, t.value, units)}
                            {read ? <b>, measured {textOf(t.quantity, read.value, units)}</b> : ""}
                          </span>
                        );
                      })}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          {known.link !== "here" ? <p className="mt-3 text-quiet">Its film is drawn when the server is back.</p> : null}
          {sheet.error ? <Notice tone="care">{whatWentWrong(sheet.error)}</Notice> : null}
          {sheet.data && document ? (
            <>
              <h2 className="mt-5 mb-1 text-lg font-bold">As this blade comes out of the bath</h2>
              <ul className="grid grid-cols-2 gap-2 max-[600px]:grid-cols-1">
                {sheet.data.stages
                  .filter((s) => s.key === "oxide" || s.key === "polished")
                  .map((s) => (
                    <li key={s.key}>
                      <span className="grid min-h-16 place-items-center overflow-hidden rounded bg-plate">
                        <Picture
                          path="/api/finish/film.png"
                          body={{ document, side: "right", stage: s.key }}
                          box={BOX}
                          label={`Right face, ${s.says.toLowerCase()}`}
                          lane={`build-film-${s.key}`}
                        />
                      </span>
                      <span className="text-sm">{s.says}</span>
                    </li>
                  ))}
              </ul>
              <div className="mt-4">
                <Relief sheet={sheet.data} />
              </div>
            </>
          ) : null}
        </section>
        <section aria-label="Care and cycles" className="flex flex-col gap-4">
          {sheet.data ? (
            <>
              <First order={sheet.data.order} never={sheet.data.never_with} />
              <p>
                <b>
                  {sheet.data.cycles.length} cycles, {minutes(sheet.data.minutes)}
                </b>{" "}
                in the bath: {sheet.data.cycles.map((c) => minutes(c.minutes)).join(", ")}.
              </p>
            </>
          ) : null}
          {ops
            .filter((o) => o.timers.length && of(o.id).standing === "open")
            .map((o) => (
              <section key={o.id} aria-label={`Clocks: ${say(o.title)}`}>
                <h2 className="mb-1 font-bold">{say(o.title)}</h2>
                <TimerButtons op={o} />
              </section>
            ))}
          {ops
            .filter((o) => o.kind === "sharpen")
            .map((o) => (
              <EdgeTested key={o.id} op={o} />
            ))}
          {info.design ? (
            <p>
              <Link className="underline underline-offset-4" to={`/design/${info.design}/finish/etch`}>
                Plan it otherwise in the design
              </Link>
            </p>
          ) : null}
        </section>
        <div className="col-span-full">
          <Traced />
        </div>
      </div>
    </main>
  );
}
