import { Delete } from "lucide-react";
import { useUnits } from "../../../app/session";
import { isLength, type Quantity } from "../quantity";

/** Keys as large as a gloved finger. They do not take the field's focus. */
export function KeyPad({
  q,
  text,
  onText,
  onTake,
  onClose,
}: {
  q: Quantity;
  text: string;
  onText: (text: string) => void;
  onTake: () => void;
  onClose: () => void;
}) {
  const { length } = useUnits();
  const inches = isLength(q) && length !== "mm";
  const keys = ["7", "8", "9", "4", "5", "6", "1", "2", "3", inches ? "/" : ".", "0", inches || q === "hardness" ? " " : "/"];
  const KEY = "grid min-h-16 place-items-center rounded-lg border border-edge bg-well text-2xl font-bold active:bg-line";
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: only keeps the focus where it is
    <div className="mt-2 grid grid-cols-4 gap-1.5" onMouseDown={(e) => e.preventDefault()}>
      <div className="col-span-3 grid grid-cols-3 gap-1.5">
        {keys.map((k) => (
          <button
            key={k}
            type="button"
            tabIndex={-1}
            className={KEY}
            aria-label={k === " " ? "space" : k}
            onClick={() => onText(text + k)}
          >
            {k === " " ? "␣" : k}
          </button>
        ))}
      </div>
      <div className="grid gap-1.5">
        <button type="button" tabIndex={-1} aria-label="rub out" className={KEY} onClick={() => onText(text.slice(0, -1))}>
          <Delete size={26} aria-hidden />
        </button>
        {inches ? (
          <button type="button" tabIndex={-1} className={KEY} onClick={() => onText(`${text}.`)}>
            .
          </button>
        ) : (
          <button type="button" tabIndex={-1} className={`${KEY} text-base`} onClick={onClose}>
            close
          </button>
        )}
        <button
          type="button"
          tabIndex={-1}
          className="row-span-2 grid min-h-32 place-items-center rounded-lg bg-accent text-2xl font-bold text-on-accent"
          onClick={onTake}
        >
          OK
        </button>
      </div>
    </div>
  );
}
