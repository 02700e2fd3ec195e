import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { Build, FaceToMark, Fitted, Side } from "../../../api/types";
import { Only, useSay } from "../../../app/session";
import { Button, Notice } from "../../../ui";
import { useToast } from "../../../ui/toast";
import { nowHere } from "../keeper";
import { useBuild } from "../useBuild";
import type { Marked } from "./Compare";
import { useFit } from "./useFit";

/** The numbers a photo tells: looked for, told with their ranges, taken over into this build's design. */
export function Fit({
  address,
  build,
  marks,
  side,
  face,
  onChanges,
}: {
  address: string;
  build: Build;
  marks: Marked[];
  side: Side;
  face: FaceToMark;
  onChanges: (changes: Record<string, number>) => void;
}) {
  const say = useSay();
  const toast = useToast();
  const queries = useQueryClient();
  const { keeper } = useBuild();
  const [wanted, setWanted] = useState<string[]>(face.usual);
  const [left, setLeft] = useState<string[]>([]);
  const [busy, setBusy] = useState(false);
  const { run, start, cancel } = useFit(`${address}/fit`);
  const found = run.fit?.numbers ?? [];
  const taken = found.filter((n) => n.fitted.differs && !left.includes(n.fitted.number.key));
  const changes = Object.fromEntries(taken.map((n) => [n.fitted.number.key, n.fitted.change]));
  const said = JSON.stringify(changes);
  useEffect(() => onChanges(JSON.parse(said)), [said, onChanges]);
  const toggle = (list: string[], key: string) => (list.includes(key) ? list.filter((k) => k !== key) : [...list, key]);
  const takeOver = async () => {
    setBusy(true);
    const path = { build_id: build.id };
    try {
      const over = await ask(api.POST("/api/builds/{build_id}/take-over", { params: { path }, body: { side, changes } }));
      const body = { id: crypto.randomUUID(), at: nowHere(), document: over.document as never, why: over.why };
      await ask(api.POST("/api/builds/{build_id}/amend", { params: { path }, body }));
      await keeper.sync();
      void queries.invalidateQueries({ queryKey: ["book"] });
      cancel();
      toast("The design of this build is now as the photo shows it.");
    } catch (e) {
      toast(whatWentWrong(e));
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="flex flex-col gap-3">
      <h3 className="text-lg font-bold">What does the photo tell?</h3>
      {run.state !== "done" ? (
        <fieldset className="flex flex-col" disabled={run.state === "running"}>
          <legend className="mb-1 text-sm text-quiet">Looked for</legend>
          {face.numbers.map((n) => (
            <label key={n.key} className="flex min-h-9 items-center gap-2">
              <input
                type="checkbox"
                checked={wanted.includes(n.key)}
                onChange={() => setWanted(toggle(wanted, n.key))}
                className="h-5 w-5 accent-[var(--accent)]"
              />
              {n.title}
            </label>
          ))}
        </fieldset>
      ) : null}
      {run.state === "running" ? (
        <div className="flex items-center gap-3">
          <progress className="min-w-24 flex-1" max={1} value={run.done} aria-label="Progress of the reading" />
          <Button onClick={cancel}>Stop</Button>
        </div>
      ) : run.state === "done" ? null : (
        <Button kind="main" disabled={!wanted.length} onClick={() => void start({ marks, side, numbers: wanted })}>
          Read it off the photo
        </Button>
      )}
      {run.state === "failed" ? <Notice tone="stop">{say(run.why)}</Notice> : null}
      {run.fit ? (
        <>
          <p className="text-sm text-quiet" role="status">
            Photo and prediction are {alike(run.fit.like)} alike with these, {alike(run.fit.like_planned)} as planned. Each range
            holds nine times in ten.
          </p>
          <ul className="divide-y divide-line">
            {found.map((n) => (
              <Row
                key={n.fitted.number.key}
                n={n}
                on={!left.includes(n.fitted.number.key)}
                toggle={() => setLeft(toggle(left, n.fitted.number.key))}
              />
            ))}
          </ul>
          <Only needs="smith">
            <Button kind="main" disabled={!taken.length || busy} onClick={() => void takeOver()}>
              {taken.length ? "Take over into this build" : "Nothing differs"}
            </Button>
          </Only>
          <Button onClick={cancel}>Look for other numbers</Button>
          <p className="text-sm text-quiet">
            Taken over, the design of this build matches what was made; the design it came from stays as it is. How thick the
            blade is a photo cannot tell: calipers do.
          </p>
        </>
      ) : null}
    </div>
  );
}

/** A correlation, as one would say it. */
const alike = (like: number) => `${Math.max(0, Math.round(like * 100))} %`;

const UNITS: Record<string, string> = { mm: "mm", deg: "°", "%": "%", turns: "turns" };

function Row({ n, on, toggle }: { n: Fitted; on: boolean; toggle: () => void }) {
  const say = useSay();
  const { number, told, differs } = n.fitted;
  const digits = number.unit === "deg" ? 0 : 2;
  const value =
    number.unit === "mm"
      ? `${n.made_low.toFixed(2)} mm to ${n.made_high.toFixed(2)} mm`
      : `${n.made_low.toFixed(digits)} to ${n.made_high.toFixed(digits)} ${UNITS[number.unit] ?? number.unit}`;
  return (
    <li className="py-2">
      {differs ? (
        <label className="flex items-start gap-2">
          <input type="checkbox" checked={on} onChange={toggle} className="mt-1 h-5 w-5 shrink-0 accent-[var(--accent)]" />
          <span>
            <b>{say(n.words)}</b>
            <span className="block text-sm text-quiet">{say(value)}</span>
          </span>
        </label>
      ) : (
        <span className="block pl-7 text-quiet">
          {number.title}: {say(n.words)}
          {told ? <span className="block text-sm">{say(value)}</span> : null}
        </span>
      )}
    </li>
  );
}
