export { Design } from "./Design";
export { useCatalogue } from "./useCatalogue";
