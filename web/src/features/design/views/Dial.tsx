import { useId } from "react";

/** A slider with its name and what it says, beside a picture. */
export function Dial({
  label,
  value,
  min,
  max,
  step,
  says,
  onChange,
}: {
  label: string;
  value: number;
  min: number;
  max: number;
  step: number;
  says: string;
  onChange: (value: number) => void;
}) {
  const id = useId();
  return (
    <div className="flex min-w-32 flex-1 flex-col">
      <label htmlFor={id} className="flex justify-between gap-2 text-sm text-quiet">
        {label}
        <span className="font-mono text-ink">{says}</span>
      </label>
      <input
        id={id}
        type="range"
        className="h-6 w-full"
        min={min}
        max={max}
        step={step}
        value={Math.min(max, Math.max(min, value))}
        aria-valuetext={says}
        onChange={(e) => onChange(Number(e.target.value))}
      />
    </div>
  );
}
