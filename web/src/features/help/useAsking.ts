import { useEffect, useState } from "react";
import { aroundOf, labelOf } from "./label";

export type Asked = { label: string; around: string };
const asked = (at: Element | null): Asked => ({ label: labelOf(at), around: aroundOf(at) });

/** F1 on whatever has the keyboard, or (picking) a click on anything: what one asks about, and where it stands; null: nobody asks. */
export function useAsking() {
  const [about, setAsked] = useState<Asked | null>(null);
  const [picking, setPicking] = useState(false);
  useEffect(() => {
    const key = (e: KeyboardEvent) => {
      if (e.key === "Escape") setPicking(false);
      if (e.key !== "F1") return;
      e.preventDefault();
      setAsked(asked(document.activeElement));
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
      setAsked(asked(e.target as Element));
      setPicking(false);
    };
    // before anything else hears of it
    for (const kind of ["click", "pointerdown", "mousedown"]) window.addEventListener(kind, pick, { capture: true });
    return () => {
      document.documentElement.classList.remove("asking");
      for (const kind of ["click", "pointerdown", "mousedown"]) window.removeEventListener(kind, pick, { capture: true });
    };
  }, [picking]);
  return { about, picking, pick: () => setPicking(true), close: () => setAsked(null) };
}
