import { combined } from "../shared/alpine";
import { faults } from "../shared/faults";
import { loading } from "../shared/loading";
import { clipboard } from "./boards/clipboard";
import { list } from "./boards/list";
import { offer } from "./boards/offer";
import { order } from "./boards/order";
import { pair } from "./boards/pair";
import { uploads } from "./boards/uploads";

/** The boards of the lesson on the Prepare page. */
export const boards = () => combined(faults(), loading(), list(), uploads(), offer(), order(), pair(), clipboard());
