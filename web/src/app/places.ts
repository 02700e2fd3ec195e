import type { ComponentType } from "react";
import { lazily } from "../lib/rest";

export type ShopPlace = {
  /** Where it stands; `/*` after it when it has addresses of its own below. */
  path: string;
  name: string;
  Page: ComponentType;
};

/** The places of the shop, in the order of the header. A new one is a folder and a line here. */
export const PLACES: ShopPlace[] = [
  { path: "bench", name: "Bench", Page: lazily(() => import("../features/bench").then((m) => m.Bench)) },
  { path: "book", name: "Book", Page: lazily(() => import("../features/book").then((m) => m.Book)) },
  { path: "rack", name: "Rack", Page: lazily(() => import("../features/rack").then((m) => m.RackPage)) },
  { path: "baths", name: "Baths", Page: lazily(() => import("../features/baths").then((m) => m.Baths)) },
  { path: "steels", name: "Steels", Page: lazily(() => import("../features/steels").then((m) => m.Steels)) },
  { path: "pairing", name: "Pairing", Page: lazily(() => import("../features/pairing").then((m) => m.Pairing)) },
  { path: "looks", name: "Looks", Page: lazily(() => import("../features/looks").then((m) => m.LooksPage)) },
  {
    path: "practice",
    name: "Practice",
    Page: lazily(() => import("../features/practice").then((m) => m.Practice)),
  },
  {
    path: "compare",
    name: "Side by side",
    Page: lazily(() => import("../features/compare").then((m) => m.Compare)),
  },
];

/** Reached otherwise than from the row. */
export const ShopPage = lazily(() => import("../features/shop").then((m) => m.ShopPage));
export const HelpPage = lazily(() => import("../features/help").then((m) => m.HelpPage));
export const BuildPage = lazily(() => import("../features/build").then((m) => m.BuildPage));
export const DesignPage = lazily(() => import("../features/design").then((m) => m.DesignPage));
