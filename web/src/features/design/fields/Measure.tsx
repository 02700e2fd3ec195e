import { useEffect, useId, useRef, useState } from "react";
import { useUnits } from "../../../app/session";
import {
  exactDegrees,
  inUnits,
  lengthText,
  parseLength,
  parseNumber,
  parseShare,
  parseTemperature,
  parseWeight,
  refusalInUnits,
  UNIT_MARK,
  type Units,
} from "../../../lib/units";

export type MeasureProps = {
  label: string;
  /** mm, C, deg, turns, share or nothing; mm and C follow the user's own units. */
  unit: string;
  value: number | null | undefined;
  onChange: (value: number | null) => void;
  hint?: string;
  problem?: string;
  /** May be left empty. */
  optional?: boolean;
  placeholder?: string;
  whole?: boolean;
  min?: number;
  max?: number;
  /** A slider under the field. */
  slider?: boolean;
  /** From, to and step of the slider, where it does not follow the value. */
  span?: [number, number, number];
  /** The label is only for those who cannot see where it stands. */
  bare?: boolean;
  /** The unit too is said by what it stands in. */
  narrow?: boolean;
};

function shown(value: number | null | undefined, unit: string, units: Units): string {
  if (value === null || value === undefined) return "";
  if (unit === "C") return exactDegrees(value, units.heat);
  if (unit === "share") return String(Math.round(value * 1e4) / 100);
  return unit === "mm" ? lengthText(value, units.length) : String(Math.round(value * 1e4) / 1e4);
}

/** A number as read off the tool: takes 3/8, 0.250", 6.35mm, 25 thou; arrows nudge; a slider where it helps. */
export function Measure(props: MeasureProps) {
  const { label, unit, value, onChange, hint, problem, optional, placeholder, whole, slider } = props;
  const units = useUnits();
  const { length, heat } = units;
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const [refusal, setRefusal] = useState("");
  const input = useRef<HTMLInputElement>(null);
  const mark = unit === "mm" ? UNIT_MARK[length] : unit === "C" ? `°${heat}` : unit === "share" ? "%" : unit;
  const min = props.min ?? 0;

  // another value from outside (undo, slider) replaces what was half typed
  // biome-ignore lint/correctness/useExhaustiveDependencies: only the value counts
  useEffect(() => {
    if (document.activeElement !== input.current) setTyped(null);
    setRefusal("");
  }, [value]);

  const take = (text: string): boolean => {
    if (!text.trim() && optional) {
      setRefusal("");
      onChange(null);
      return true;
    }
    // what stands there already is the number itself, told shorter: it was not typed
    if (typeof value === "number" && text.trim() === shown(value, unit, units)) {
      setRefusal("");
      return true;
    }
    const found =
      unit === "mm"
        ? parseLength(text, length)
        : unit === "C"
          ? parseTemperature(text, heat)
          : unit === "share" || unit === "%"
            ? parsePercent(text, unit)
            : unit === "g"
              ? parseWeight(text, "g")
              : parseNumber(text);
    if (!found.ok) {
      setRefusal(found.why);
      return false;
    }
    const exact = whole ? Math.round(found.value) : found.value;
    setRefusal("");
    if (value === null || value === undefined || Math.abs(exact - value) > 1e-9) onChange(exact);
    return true;
  };

  const nudge = (by: number) => {
    const next = Math.max(min, (value ?? min) + by);
    setTyped(null);
    onChange(whole ? Math.round(next) : Math.round(next * 1e6) / 1e6);
  };

  const step =
    unit === "C"
      ? 5
      : whole || unit === "turns" || unit === "deg" || unit === "min"
        ? 1
        : unit === "mm"
          ? nudgeMm(value ?? 1)
          : 0.01;
  const error = refusal || (problem ? refusalInUnits(problem, unit, units) : "");
  return (
    <div>
      <label htmlFor={id} className={props.bare ? "sr-only" : "mb-0.5 block text-sm text-quiet"}>
        {label}
      </label>
      <div
        className={`flex min-h-11 items-center rounded-lg border bg-well ${props.narrow ? "" : "pr-3"} focus-within:outline-3 focus-within:outline-offset-2 focus-within:outline-[#c98a1b] ${error ? "border-stop" : "border-edge"}`}
      >
        <input
          ref={input}
          id={id}
          autoComplete="off"
          className="min-h-10 w-full min-w-0 rounded-lg bg-transparent outline-none px-3 font-mono text-base placeholder:text-quiet"
          value={typed ?? shown(value, unit, units)}
          placeholder={placeholder}
          aria-invalid={!!error}
          aria-describedby={error || hint ? `${id}-about` : undefined}
          onChange={(e) => {
            setTyped(e.target.value);
            setRefusal("");
          }}
          onBlur={(e) => {
            if (typed !== null && take(e.target.value)) setTyped(null);
          }}
          onKeyDown={(e) => {
            if (e.key === "Enter" && take(e.currentTarget.value)) setTyped(null);
            if (e.key === "Escape") {
              setTyped(null);
              setRefusal("");
            }
            if (e.key === "ArrowUp" || e.key === "ArrowDown") {
              e.preventDefault();
              nudge((e.key === "ArrowUp" ? 1 : -1) * step * (e.shiftKey ? 10 : 1));
            }
          }}
        />
        <span className={props.narrow ? "sr-only" : "shrink-0 text-sm text-quiet"}>{mark}</span>
      </div>
      {props.span && typeof value === "number" ? (
        <Span label={label} value={value} onChange={onChange} span={props.span} />
      ) : slider && typeof value === "number" ? (
        <Slide label={label} value={value} onChange={onChange} whole={whole} unit={unit} min={min} max={props.max} />
      ) : null}
      {error ? (
        <p id={`${id}-about`} role="alert" className="mt-0.5 text-sm text-stop">
          {error}
        </p>
      ) : hint ? (
        <p id={`${id}-about`} className="mt-0.5 text-sm leading-tight text-quiet">
          {inUnits(hint, units)}
        </p>
      ) : null}
    </div>
  );
}

/** A share of one, or a number of per cent: 10 and 10 % read alike. */
function parsePercent(text: string, unit: string): ReturnType<typeof parseNumber> {
  const found = parseShare(text);
  return found.ok && unit === "%" ? { ok: true, value: Math.round(found.value * 1e10) / 1e8 } : found;
}

function nudgeMm(value: number): number {
  const size = Math.abs(value);
  return size >= 50 ? 1 : size >= 5 ? 0.5 : size >= 0.5 ? 0.1 : 0.01;
}

type SlideProps = {
  label: string;
  value: number;
  onChange: (v: number) => void;
  whole?: boolean;
  unit: string;
  min: number;
  max?: number;
};

/** A slider that goes from one fixed end to the other. */
function Span({
  label,
  value,
  onChange,
  span,
}: {
  label: string;
  value: number;
  onChange: (v: number) => void;
  span: [number, number, number];
}) {
  const [from, to, step] = span;
  return (
    <input
      type="range"
      aria-label={`${label}, slider`}
      className="mt-1 h-5 w-full"
      min={from}
      max={to}
      step={step}
      value={Math.min(to, Math.max(from, value))}
      onChange={(e) => onChange(Math.round(Number(e.target.value) * 1e4) / 1e4)}
    />
  );
}

function Slide({ label, value, onChange, whole, unit, min, max }: SlideProps) {
  // the reach stands still while the hand is on it, else it would run away from the pointer
  const [reach, setReach] = useState(() => reachOf(value, unit, max));
  useEffect(() => {
    if (value > reach || value < reach / 12) setReach(reachOf(value, unit, max));
  }, [value, reach, unit, max]);
  const low = unit === "mm" && value > 1 ? reach / 100 : min;
  return (
    <input
      type="range"
      aria-label={`${label}, slider`}
      className="mt-1 h-5 w-full"
      min={low}
      max={reach}
      step={whole ? 1 : unit === "turns" ? 0.25 : unit === "deg" ? 1 : reach / 400}
      value={Math.min(value, reach)}
      onChange={(e) => {
        const next = Number(e.target.value);
        onChange(whole ? Math.round(next) : Math.round(next * 1e3) / 1e3);
      }}
    />
  );
}

function reachOf(value: number, unit: string, max?: number): number {
  if (unit === "share") return max ?? 1;
  const wanted = Math.max(value * 2.2, unit === "turns" ? 30 : unit === "mm" ? 0.5 : 4);
  const power = 10 ** Math.floor(Math.log10(wanted));
  const nice = [1, 2, 3, 5, 8, 10].find((n) => n * power >= wanted) ?? 10;
  return Math.min(nice * power, max ?? Number.POSITIVE_INFINITY);
}
