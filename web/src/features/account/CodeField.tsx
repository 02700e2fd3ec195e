import { useId } from "react";
import { DOOR_FIELD } from "./Door";

/** A code of one's phone, or a spare one. */
export function CodeField({ label, says }: { label: string; says?: string }) {
  const id = useId();
  return (
    <div className="text-sm text-quiet">
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        name="code"
        inputMode="numeric"
        autoComplete="one-time-code"
        required
        // biome-ignore lint/a11y/noAutofocus: it appears because it is asked for now
        autoFocus
        maxLength={60}
        aria-describedby={says ? `${id}-says` : undefined}
        className={`${DOOR_FIELD} font-mono tracking-widest`}
      />
      {says ? (
        <span id={`${id}-says`} className="mt-1.5 block">
          {says}
        </span>
      ) : null}
    </div>
  );
}
