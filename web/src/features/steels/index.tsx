export { SteelChoice } from "./SteelChoice";
export { Steels } from "./Steels";
export { Swatch } from "./Swatch";
export { greyOf, useSteels } from "./useSteels";
