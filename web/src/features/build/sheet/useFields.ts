import { useEffect, useRef, useState } from "react";
import type { Operation } from "../../../api/types";
import { useUnits } from "../../../app/session";
import type { Written } from "../keeper";
import { parseSpots, type Quantity } from "../quantity";
import { keepTyped, typedOf } from "../shelf";
import { useBuild } from "../useBuild";

export type Fields = ReturnType<typeof useFields>;

/** What is being typed into the fields of an operation: kept with every key, taken when it can be read. */
export function useFields(op: Operation) {
  const { keeper } = useBuild();
  const units = useUnits();
  const [texts, setTexts] = useState<Partial<Record<string, string>>>({});
  const [wrong, setWrong] = useState<Partial<Record<string, string>>>({});
  const [active, setActive] = useState<Quantity | null>(null);
  const latest = useRef(texts);
  latest.current = texts;
  const { user, build } = keeper;
  useEffect(() => {
    // what stood half typed when the light went out
    void typedOf(user, build, op.id)
      .then((found) => setTexts((now) => ({ ...found, ...now })))
      .catch(() => undefined);
  }, [user, build, op.id]);
  const asked = op.targets.filter((t) => t.quantity !== "heats").map((t) => t.quantity);

  const type = (q: string, text: string) => {
    latest.current = { ...latest.current, [q]: text };
    setTexts(latest.current);
    setWrong((now) => ({ ...now, [q]: "" }));
    void keepTyped(user, build, op.id, q, text).catch(() => undefined);
  };
  /** The entry for what stands in a field; undefined when it is empty, null when it cannot be read. */
  const read = (q: Quantity): Written | null | undefined => {
    const text = latest.current[q]?.trim();
    if (!text) return undefined;
    const found = parseSpots(q, text, units);
    const bad = !found.ok ? found.why : found.value < 0 || found.value > 1e6 ? "No such thing is measured." : "";
    setWrong((now) => ({ ...now, [q]: bad }));
    if (bad || !found.ok) return null;
    return {
      op: op.id,
      kind: "measured",
      quantity: q,
      value: found.value,
      typed: text.slice(0, 120),
      ...(found.spots.length > 1 ? { spots: found.spots } : {}),
    };
  };
  const take = (q: Quantity): boolean => {
    const entry = read(q);
    if (entry === null) return false;
    if (entry) {
      void keeper.write([entry]);
      type(q, "");
    }
    const after = asked[asked.indexOf(q) + 1] ?? null;
    setActive(after);
    return true;
  };
  return {
    texts,
    wrong,
    active,
    asked,
    setActive,
    type,
    take,
    /** All that stands typed, as entries; null when something cannot be read. */
    takeAll: (): Written[] | null => {
      const found = asked.map(read);
      if (found.includes(null)) {
        setActive(asked[found.indexOf(null)] ?? null);
        return null;
      }
      return found.filter((e): e is Written => !!e);
    },
    clear: () => {
      for (const q of asked) type(q, "");
    },
    /** A digit from a keyboard goes into the field that is next. */
    begin: (digit: string) => {
      const q = active ?? asked[0];
      if (!q) return;
      setActive(q);
      type(q, (latest.current[q] ?? "") + digit);
    },
  };
}
