import { Eye, EyeOff } from "lucide-react";
import { useId, useState } from "react";
import { DOOR_FIELD } from "./Door";
import { strength } from "./strength";

/** A password that can be looked at while one types; a new one says how well it would stand. */
export function PasswordField({ label, name = "password", fresh }: { label: string; name?: string; fresh?: boolean }) {
  const id = useId();
  const [seen, setSeen] = useState(false);
  const [typed, setTyped] = useState("");
  const { says, share } = strength(typed);
  return (
    <div className="text-sm text-quiet">
      <label htmlFor={id}>{label}</label>
      <span className="relative block">
        <input
          id={id}
          name={name}
          type={seen ? "text" : "password"}
          autoComplete={fresh ? "new-password" : "current-password"}
          required
          maxLength={128}
          onChange={(e) => setTyped(e.target.value)}
          className={`${DOOR_FIELD} pr-12`}
        />
        <button
          type="button"
          aria-label={seen ? "Hide what is typed" : "Show what is typed"}
          aria-pressed={seen}
          onClick={() => setSeen(!seen)}
          className="absolute inset-y-0 right-0 grid w-11 place-items-center text-quiet hover:text-ink"
        >
          {seen ? <EyeOff size={18} aria-hidden /> : <Eye size={18} aria-hidden />}
        </button>
      </span>
      {fresh && typed ? (
        <span className="mt-1 flex items-center gap-2">
          <progress className="h-2 flex-1" max={1} value={share} aria-label="How well it would stand" />
          <span className="w-44">{says}</span>
        </span>
      ) : null}
    </div>
  );
}
