import { createContext, useContext } from "react";
import type { Bar, BarId, Catalogue, CoreLine, DesignFull, Document, Ledger, ProblemItem } from "../../api/types";
import type { Change } from "./draft";
import type { Where } from "./where";

/** The design on the table: the draft, what was worked out of it, and what the blade above shows. All its places share it. */
export type Table = {
  design: DesignFull;
  catalogue: Catalogue;
  /** The draft's name and document. */
  name: string;
  document: Document;
  /** The document once the hand rests. */
  calm: Document;
  change: (c: Change) => void;
  undo: () => void;
  redo: () => void;
  where: Where;
  go: (next: Partial<Where>, quietly?: boolean) => void;
  /** The open bar, and the one it goes into. */
  bar: BarId;
  recipe: Bar;
  into: BarId | null;
  /** The last that could be worked out, with the problems of the draft as it is now. */
  ledger: Ledger | null;
  problems: ProblemItem[];
  core: CoreLine | null;
  plate: Plate;
};

export type Plate = {
  /** The station pointed at, mm from the heel. */
  at: number | null;
  setAt: (x: number | null) => void;
  /** Another blade laid on the plate, for looking at only. */
  setPreview: (blade: Document["blade"] | null) => void;
  fired: boolean;
  setFired: (on: boolean) => void;
  setLarge: (change: (on: boolean) => boolean) => void;
};

const Context = createContext<Table | null>(null);
export const TableProvider = Context.Provider;

export function useTable(): Table {
  const found = useContext(Context);
  if (!found) throw new Error("outside a design");
  return found;
}
