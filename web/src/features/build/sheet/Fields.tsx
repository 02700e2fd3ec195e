import { Plus } from "lucide-react";
import { useEffect, useRef } from "react";
import type { Operation, Target } from "../../../api/types";
import { useSay, useUnits } from "../../../app/session";
import {
  goalNumber,
  isLength,
  nameOf,
  numberText,
  type Quantity,
  sizesBefore,
  sizeText,
  textOf,
  toleranceText,
  unitOf,
} from "../quantity";
import { useBuild } from "../useBuild";
import { KeyPad } from "./KeyPad";
import type { Fields as Typing } from "./useFields";

/** What to reach, large; what it is now; a field for what the calipers say. */
export function Fields({ op, fields }: { op: Operation; fields: Typing }) {
  const { route, of } = useBuild();
  const units = useUnits();
  const before = sizeText(sizesBefore(route, op, of), units);
  const heats = op.targets.find((t) => t.quantity === "heats");
  const rest = op.targets.filter((t) => t.quantity !== "heats");
  if (!op.targets.length) return null;
  return (
    <div>
      {before ? (
        <p className="mb-1 text-lg">
          <span className="text-quiet">comes as </span>
          <span className="font-mono">{before}</span>
        </p>
      ) : null}
      <ul aria-label="Sizes" className="divide-y divide-line rounded-xl border border-line bg-panel">
        {rest.map((t) => (
          <Row key={`${t.quantity}${t.says}`} op={op} target={t} fields={fields} />
        ))}
        {heats ? <Heats op={op} target={heats} /> : null}
      </ul>
    </div>
  );
}

function Row({ op, target, fields }: { op: Operation; target: Target; fields: Typing }) {
  const { of } = useBuild();
  const units = useUnits();
  const say = useSay();
  const q = target.quantity;
  const input = useRef<HTMLInputElement>(null);
  const measured = of(op.id).measured[q];
  const active = fields.active === q;
  const text = fields.texts[q] ?? "";
  const wrong = fields.wrong[q];
  const off = target.measured === measured?.value ? target.off : "";
  const follows = isLength(q) && Math.abs(target.now - target.value) > Math.max(0.05, 0.002 * target.value) && !measured;
  useEffect(() => {
    if (active) input.current?.focus();
  }, [active]);
  const tolerance = q === "celsius" ? "" : toleranceText(q, target.tolerance, units);
  return (
    <li className="px-4 py-2">
      <div className="flex items-center gap-3">
        <div className="min-w-0 flex-1">
          <span className="block text-sm text-quiet">
            {say(nameOf(target))}
            {tolerance}
          </span>
          <span className="block font-mono text-3xl leading-tight font-bold whitespace-nowrap">
            {goalNumber(q, target.value, units)}
            <span className="ml-1 text-lg font-normal">{unitOf(q, units)}</span>
          </span>
          {follows ? <span className="block text-sm text-care">as it is: {textOf(q, target.now, units)}</span> : null}
        </div>
        <label className="shrink-0">
          <span className="sr-only">{nameOf(target)}, measured</span>
          <input
            ref={input}
            // our own pad is as large as a hand; the phone's would cover the sheet
            inputMode="none"
            autoComplete="off"
            value={text || (active ? "" : measured ? numberText(q, measured.value, units) : "")}
            placeholder={measured ? numberText(q, measured.value, units) : "…"}
            aria-invalid={!!wrong}
            onFocus={() => fields.setActive(q)}
            onChange={(e) => fields.type(q, e.target.value)}
            onKeyDown={(e) => {
              if (e.key === "Enter") {
                e.preventDefault();
                if (fields.take(q) && fields.asked.at(-1) === q) e.currentTarget.blur();
              }
              if (e.key === "Escape") {
                fields.type(q, "");
                fields.setActive(null);
                e.currentTarget.blur();
              }
            }}
            className={`min-h-16 w-32 rounded-lg border bg-well px-3 text-right font-mono text-3xl ${wrong ? "border-stop" : active ? "border-accent" : measured ? "border-line font-bold" : "border-edge"}`}
          />
        </label>
      </div>
      {wrong ? (
        <p role="alert" className="text-stop">
          {wrong}
        </p>
      ) : off ? (
        <p className="text-care">{say(off)}</p>
      ) : null}
      {active ? (
        <KeyPad
          q={q as Quantity}
          text={text}
          onText={(t) => fields.type(q, t)}
          onTake={() => fields.take(q)}
          onClose={() => fields.setActive(null)}
        />
      ) : null}
    </li>
  );
}

function Heats({ op, target }: { op: Operation; target: Target }) {
  const { of, keeper } = useBuild();
  const so = of(op.id).measured.heats?.value ?? 0;
  const write = (value: number) =>
    void keeper.write([{ op: op.id, kind: "measured", quantity: "heats", value, typed: String(value) }]);
  return (
    <li className="flex items-center gap-3 px-4 py-2">
      <div className="flex-1">
        <span className="block text-sm text-quiet">heats, of {Math.round(target.now)}</span>
        <span className="block font-mono text-3xl leading-tight font-bold">{so}</span>
      </div>
      {so > 0 ? (
        <button type="button" className="min-h-16 px-3 text-quiet" onClick={() => write(so - 1)}>
          one less
        </button>
      ) : null}
      <button
        type="button"
        className="inline-flex min-h-16 w-32 items-center justify-center gap-1 rounded-lg border border-edge bg-well text-2xl font-bold"
        onClick={() => write(so + 1)}
      >
        <Plus size={22} aria-hidden />1<span className="sr-only"> heat more</span>
      </button>
    </li>
  );
}
