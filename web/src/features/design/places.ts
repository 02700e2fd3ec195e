import { type ComponentType, lazy } from "react";

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
  { path: "bar", name: "Design", Page: lazy(() => import("./bar/BarPlace").then((m) => ({ default: m.BarPlace }))), plate: {} },
  {
    path: "stock",
    name: "Stock",
    key: "k",
    Page: lazy(() => import("./stock/StockPlace").then((m) => ({ default: m.StockPlace }))),
    plate: { low: true },
  },
  {
    path: "heat",
    name: "Heat",
    key: "h",
    Page: lazy(() => import("./heat/HeatPlace").then((m) => ({ default: m.HeatPlace }))),
    plate: { low: true, fired: true },
  },
  {
    path: "grind",
    name: "Grind",
    key: "g",
    Page: lazy(() => import("./grind/GrindPlace").then((m) => ({ default: m.GrindPlace }))),
    plate: { core: true },
  },
  {
    path: "finish",
    name: "Finish",
    key: "n",
    Page: lazy(() => import("./finish/FinishPlace").then((m) => ({ default: m.FinishPlace }))),
    plate: { low: true },
  },
  {
    path: "build",
    name: "Build",
    Page: lazy(() => import("./begin/BeginPlace").then((m) => ({ default: m.BeginPlace }))),
    plate: { low: true },
  },
];
