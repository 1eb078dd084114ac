/** The main working page. */
export { Bench } from "./Bench";
