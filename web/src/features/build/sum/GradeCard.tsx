import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, whatWentWrong } from "../../../api/client";
import type { BladeCard } from "../../../api/types";
import { useMay, useSay } from "../../../app/session";
import { Button, Choice, Modal, Notice } from "../../../ui";
import { useFaultName } from "../../faults/useFaultName";
import { useBuild } from "../useBuild";

const LOOK = "blade:look";
type Grade = NonNullable<BladeCard["grade"]>;
const GRADES: { value: Grade; label: string }[] = [
  { value: "first", label: "first grade" },
  { value: "second", label: "second" },
  { value: "not for sale", label: "not for sale" },
];
const MARK: Record<Grade, string> = { first: "★", second: "◆", "not for sale": "■" };

/** The grade, point by point, and the card that goes with the blade. */
export function GradeCard() {
  const { info, told, known, of, keeper } = useBuild();
  const say = useSay();
  const may = useMay("smith");
  const fault = useFaultName();
  const [open, setOpen] = useState(false);
  const [setting, setSetting] = useState(false);
  const card = useQuery({
    queryKey: ["build-card", info.id, info.plan, known.records.length],
    queryFn: () => ask(api.GET("/api/builds/{build_id}/card", { params: { path: { build_id: info.id } } })),
    enabled: known.link === "here",
    placeholderData: (old) => old,
  });
  if (!told.operations.some((o) => o.id === LOOK)) return null;
  const found = card.data;
  const answers = of(LOOK).answers;
  return (
    <section aria-label="Grade" className="mt-4 rounded-xl border border-line bg-panel p-4">
      <h2 className="text-lg font-bold">Grade</h2>
      {card.error ? <Notice tone="stop">{whatWentWrong(card.error)}</Notice> : null}
      {found ? (
        <>
          <p className="text-lg">
            {found.grade ? (
              <b>
                <span aria-hidden>{MARK[found.grade]}</span> {GRADES.find((g) => g.value === found.grade)?.label}
              </b>
            ) : (
              <span className="text-quiet">not graded yet</span>
            )}
          </p>
          <p>
            {say(found.why)} {found.own ? <span className="text-quiet">Set by the smith.</span> : null}
          </p>
          <div className="mt-2 flex flex-wrap gap-2">
            <Button compact pressed={open} onClick={() => setOpen(!open)}>
              Point by point
            </Button>
            {may ? (
              <Button compact onClick={() => setSetting(true)}>
                Set it otherwise
              </Button>
            ) : null}
            <a
              className="inline-flex min-h-11 items-center rounded-lg border border-edge bg-well px-2"
              href={`/api/builds/${info.id}/card.pdf`}
              target="_blank"
              rel="noreferrer"
            >
              The card, PDF
            </a>
            <a
              className="inline-flex min-h-11 items-center rounded-lg border border-edge bg-well px-2"
              href={`/api/builds/${info.id}/card`}
              download={`${info.title} card.json`}
            >
              JSON
            </a>
          </div>
          {open ? (
            <ol className="mt-3 flex flex-col gap-1">
              {found.points.map((p) => {
                const i = p.check;
                // a test of the edge that failed counts whatever was answered, one that stood answers the point
                const said = found.failed.includes(p.key)
                  ? false
                  : (answers[i] ?? (found.open.includes(p.key) ? undefined : true));
                const tell = (good: boolean) => void keeper.write([{ op: LOOK, kind: "checked", check: i, good }]);
                return (
                  <li key={p.key} className="border-t border-line py-2">
                    <p>{say(p.ask)}</p>
                    <p className={`text-sm ${said === false ? "font-semibold text-stop" : "text-quiet"}`}>
                      {say(said === false ? p.bad : p.good)}
                    </p>
                    {p.log.map((f) => (
                      <p key={f.at} className="border-l-4 border-stop pl-3 text-sm">
                        The log says, {new Date(f.at).toLocaleDateString()}: {f.text || fault(f.fault)}. Look again: met when it
                        is gone.
                      </p>
                    ))}
                    <span className="mt-1 flex gap-2">
                      <Button
                        compact
                        pressed={said === true}
                        kind={said === true ? "main" : "plain"}
                        label={`Met: ${p.ask}`}
                        onClick={() => tell(true)}
                      >
                        met
                      </Button>
                      <Button
                        compact
                        pressed={said === false}
                        kind={said === false ? "main" : "plain"}
                        label={`Not met: ${p.ask}`}
                        onClick={() => tell(false)}
                      >
                        not met
                      </Button>
                    </span>
                  </li>
                );
              })}
            </ol>
          ) : null}
        </>
      ) : (
        <p className="text-quiet">{known.link === "here" ? "Looking…" : "It is graded when the server is back."}</p>
      )}
      {setting ? <SetGrade onClose={() => setSetting(false)} /> : null}
    </section>
  );
}

function SetGrade({ onClose }: { onClose: () => void }) {
  const { keeper } = useBuild();
  const [grade, setGrade] = useState<Grade>("second");
  const [why, setWhy] = useState("");
  return (
    <Modal open onClose={onClose} title="Grade it otherwise">
      <div className="flex flex-col gap-3">
        <Choice titled label="It is" value={grade} options={GRADES} onChange={setGrade} />
        <label>
          <span className="mb-0.5 block text-sm text-quiet">Why: it is said with the blade</span>
          <textarea
            value={why}
            maxLength={2000}
            rows={3}
            onChange={(e) => setWhy(e.target.value)}
            className="w-full rounded-lg border border-edge bg-well p-2"
          />
        </label>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Leave it</Button>
          <Button
            kind="main"
            disabled={!why.trim()}
            onClick={() => {
              void keeper.write([{ op: "", kind: "graded", grade, why: why.trim() }]);
              onClose();
            }}
          >
            Set it
          </Button>
        </div>
      </div>
    </Modal>
  );
}
