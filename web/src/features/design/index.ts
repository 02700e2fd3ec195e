export { DesignPage } from "./DesignPage";
