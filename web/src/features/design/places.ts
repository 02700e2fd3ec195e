import type { ComponentType } from "react";
import { lazily } from "../../lib/rest";

export type DesignPlace = {
  path: string;
  name: string;
  /** The key that leads there, and back to the first. */
  key?: string;
  Page: ComponentType;
  /** What the blade above shows while one is there. */
  plate: {
    /** It takes less of the screen: there is much to read below. */
    low?: boolean;
    /** The core line drawn over the faces, and a station pointed at. */
    core?: boolean;
    /** As the fire leaves the steels, if wished. */
    fired?: boolean;
  };
};

/** The places of a design, in the order of the work. A new one is a file and a line here. */
export const DESIGN_PLACES: DesignPlace[] = [
  { path: "bar", name: "Design", Page: lazily(() => import("./bar/BarPlace").then((m) => m.BarPlace)), plate: {} },
  {
    path: "stock",
    name: "Stock",
    key: "k",
    Page: lazily(() => import("./stock/StockPlace").then((m) => m.StockPlace)),
    plate: { low: true },
  },
  {
    path: "heat",
    name: "Heat",
    key: "h",
    Page: lazily(() => import("./heat/HeatPlace").then((m) => m.HeatPlace)),
    plate: { low: true, fired: true },
  },
  {
    path: "grind",
    name: "Grind",
    key: "g",
    Page: lazily(() => import("./grind/GrindPlace").then((m) => m.GrindPlace)),
    plate: { core: true },
  },
  {
    path: "finish",
    name: "Finish",
    key: "n",
    Page: lazily(() => import("./finish/FinishPlace").then((m) => m.FinishPlace)),
    plate: { low: true },
  },
  {
    path: "build",
    name: "Build",
    Page: lazily(() => import("./begin/BeginPlace").then((m) => m.BeginPlace)),
    plate: { low: true },
  },
];
