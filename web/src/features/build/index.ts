export { BuildPage } from "./BuildPage";
