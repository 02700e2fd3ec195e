import { useEffect, useRef } from "react";

/** Single-key shortcuts, silent while something is being typed or a dialog is open. */
export function useKeys(keys: Record<string, () => void>) {
  const latest = useRef(keys);
  latest.current = keys;
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const target = e.target as HTMLElement;
      if (e.altKey || e.defaultPrevented) return;
      if (target.closest("input, textarea, select, [role=listbox], [role=menu], [role=dialog], [role=slider], [role=radiogroup]"))
        return;
      const key = e.key.toLowerCase();
      const undoing = (e.ctrlKey || e.metaKey) && (key === "z" || key === "y");
      if ((e.ctrlKey || e.metaKey) && !undoing) return;
      // a lifted portrait moves with the arrows itself
      if (target.getAttribute("aria-pressed") === "true" && key.startsWith("arrow")) return;
      const act = latest.current[e.shiftKey && key.length > 0 && key !== "?" ? `shift+${key}` : key];
      if (!act) return;
      e.preventDefault();
      act();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}
