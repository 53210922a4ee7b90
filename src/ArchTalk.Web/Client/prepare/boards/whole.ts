import type { Faults } from "../../shared/faults";
import type { Loading } from "../../shared/loading";
import type { clipboard } from "./clipboard";
import type { list } from "./list";
import type { offer } from "./offer";
import type { order } from "./order";
import type { pair } from "./pair";
import type { uploads } from "./uploads";

export interface ListedBoard {
  id: string;
  title: string;
  kind: string;
  height: number;
  small: string | null;
  source: string;
  items: string | null;
}

/** The boards on the Prepare page: what each of the parts sees as `this`. */
export interface BoardsPage
  extends Faults, Loading, ReturnType<typeof list>, ReturnType<typeof uploads>, ReturnType<typeof offer>, ReturnType<typeof order>,
    ReturnType<typeof pair>, ReturnType<typeof clipboard> {}
