export { Design } from "./Design";
