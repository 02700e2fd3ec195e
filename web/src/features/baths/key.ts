/** Under which the shop's baths are kept at hand. */
export const BATHS_KEY = ["baths"];
