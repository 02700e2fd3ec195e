import { useEffect, useState } from "react";
import { labelOf } from "./label";

/** F1 on whatever has the keyboard, or (picking) a click on anything: the label one asks about; null: nobody asks. */
export function useAsking() {
  const [label, setLabel] = useState<string | null>(null);
  const [picking, setPicking] = useState(false);
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (e.key === "Escape") setPicking(false);
      if (e.key !== "F1") return;
      e.preventDefault();
      setLabel(labelOf(document.activeElement));
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, []);
  useEffect(() => {
    if (!picking) return;
    document.documentElement.classList.add("asking");
    const pick = (e: Event) => {
      e.preventDefault();
      e.stopPropagation();
      if (e.type !== "click") return;
      setLabel(labelOf(e.target as Element));
      setPicking(false);
    };
    // before anything else hears of it
    for (const kind of ["click", "pointerdown", "mousedown"]) window.addEventListener(kind, pick, { capture: true });
    return () => {
      document.documentElement.classList.remove("asking");
      for (const kind of ["click", "pointerdown", "mousedown"]) window.removeEventListener(kind, pick, { capture: true });
    };
  }, [picking]);
  return { label, picking, pick: () => setPicking(true), close: () => setLabel(null) };
}
