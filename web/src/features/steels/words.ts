import type { Source, Steel } from "../../api/types";

export const SURE: Record<Source["sure"], string> = {
  sure: "sure",
  fair: "fairly sure",
  indicative: "indicative",
  computed: "worked out",
  own: "your own",
};

export const HARDENS: Record<Steel["hardens"], string> = {
  yes: "hardens",
  shallow: "hardens, shallow",
  partly: "hardens partly",
  no: "does not harden",
};

export const QUENCH: Record<NonNullable<Steel["quench"]>, string> = {
  water: "water or brine",
  fast_oil: "fast oil",
  medium_oil: "medium oil",
  slow_oil: "slow, warm oil",
  air: "air or plates",
};

export const BATHS = {
  ferric: "Ferric chloride",
  muriatic: "Muriatic acid",
  coffee: "Coffee",
  nital: "Nital",
} as const;

export const TEMPERS = [150, 175, 200, 225, 250, 300, 350];
