import { type ComponentType, lazy } from "react";

export type ShopPlace = {
  /** Where it stands; `/*` after it when it has addresses of its own below. */
  path: string;
  name: string;
  Page: ComponentType;
};

/** The places of the shop, in the order of the header. A new one is a folder and a line here. */
export const PLACES: ShopPlace[] = [
  { path: "bench", name: "Bench", Page: lazy(() => import("../features/bench").then((m) => ({ default: m.Bench }))) },
  { path: "book", name: "Book", Page: lazy(() => import("../features/book").then((m) => ({ default: m.Book }))) },
  { path: "rack", name: "Rack", Page: lazy(() => import("../features/rack").then((m) => ({ default: m.RackPage }))) },
  { path: "baths", name: "Baths", Page: lazy(() => import("../features/baths").then((m) => ({ default: m.Baths }))) },
  { path: "steels", name: "Steels", Page: lazy(() => import("../features/steels").then((m) => ({ default: m.Steels }))) },
  { path: "pairing", name: "Pairing", Page: lazy(() => import("../features/pairing").then((m) => ({ default: m.Pairing }))) },
  { path: "looks", name: "Looks", Page: lazy(() => import("../features/looks").then((m) => ({ default: m.LooksPage }))) },
  {
    path: "practice",
    name: "Practice",
    Page: lazy(() => import("../features/practice").then((m) => ({ default: m.Practice }))),
  },
  {
    path: "compare",
    name: "Side by side",
    Page: lazy(() => import("../features/compare").then((m) => ({ default: m.Compare }))),
  },
];

/** Reached otherwise than from the row. */
export const ShopPage = lazy(() => import("../features/shop").then((m) => ({ default: m.ShopPage })));
export const HelpPage = lazy(() => import("../features/help").then((m) => ({ default: m.HelpPage })));
export const BuildPage = lazy(() => import("../features/build").then((m) => ({ default: m.BuildPage })));
export const DesignPage = lazy(() => import("../features/design").then((m) => ({ default: m.DesignPage })));
