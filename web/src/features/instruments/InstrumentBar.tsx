import { Ruler } from "lucide-react";
import { useEffect, useRef, useState, useSyncExternalStore } from "react";
import { useUnits } from "../../app/session";
import { typedAs } from "../../lib/instrument";
import { Button } from "../../ui";
import { settled, snapshot, subscribe } from "./port";
import { takenText } from "./words";

const NO_TEXT = new Set(["range", "checkbox", "radio", "file", "button", "submit", "search", "date"]);

/** The field that has, or had last, the focus, and its name. */
function useField(): [HTMLInputElement | null, string] {
  const [field, setField] = useState<HTMLInputElement | null>(null);
  useEffect(() => {
    const look = (e: FocusEvent) => {
      const t = e.target;
      if (t instanceof HTMLInputElement && !NO_TEXT.has(t.type) && !t.closest("[data-instruments]")) setField(t);
    };
    document.addEventListener("focusin", look);
    return () => document.removeEventListener("focusin", look);
  }, []);
  const there = field?.isConnected ? field : null;
  return [there, there ? (there.labels?.[0]?.textContent ?? there.getAttribute("aria-label") ?? "this field") : ""];
}

/** As if it had been typed there, and Enter pressed. */
function type(field: HTMLInputElement, text: string): void {
  field.focus();
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")?.set?.call(field, text);
  field.dispatchEvent(new Event("input", { bubbles: true }));
  field.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true, cancelable: true }));
}

/** What an instrument has just said, to be put into the field that has the focus: shown first, taken when it is confirmed. */
export function InstrumentBar() {
  const { waiting } = useSyncExternalStore(subscribe, snapshot);
  const [field, name] = useField();
  const units = useUnits();
  const take = useRef<() => void>(() => undefined);
  take.current = () => {
    if (!waiting || !field) return;
    settled();
    type(field, typedAs(waiting));
  };
  const there = useRef(field);
  there.current = field;
  useEffect(() => {
    if (!waiting) return;
    const key = (e: KeyboardEvent) => {
      // before the field itself: its own Enter would take what stood there before
      if (e.key === "Enter" && e.isTrusted && e.target === there.current) {
        e.preventDefault();
        e.stopPropagation();
        take.current();
      }
      if (e.key === "Escape") settled();
    };
    window.addEventListener("keydown", key, true);
    return () => window.removeEventListener("keydown", key, true);
  }, [waiting]);
  if (!waiting) return null;
  return (
    <section
      data-instruments
      role="status"
      aria-label="The instrument"
      className="fixed inset-x-0 bottom-3 z-60 mx-auto flex w-fit max-w-[96vw] flex-wrap items-center gap-3 rounded-xl border border-edge bg-panel px-4 py-2 shadow-xl"
    >
      <Ruler size={20} aria-hidden />
      <span className="font-mono text-2xl font-bold">{takenText(waiting, units)}</span>
      {field ? (
        <Button kind="main" onClick={() => take.current()}>
          Into {name} <span className="text-sm opacity-80">(Enter)</span>
        </Button>
      ) : (
        <span className="text-quiet">Choose a field for it.</span>
      )}
      <Button onClick={settled}>Leave it</Button>
    </section>
  );
}
