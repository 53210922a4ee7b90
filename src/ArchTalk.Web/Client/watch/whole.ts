import type { Transport } from "../player/transport";
import type { Faults } from "../shared/faults";
import type { Loading } from "../shared/loading";
import type { Shortcuts } from "../shared/shortcuts";
import type { clip } from "./clip";
import type { closer } from "./closer";
import type { drawn } from "./drawn";
import type { keyLines } from "./key-lines";
import type { lesson } from "./lesson";
import type { screen } from "./screen";
import type { seek } from "./seek";
import type { stops } from "./stops";
import type { tries } from "./tries";
import type { vocabulary } from "./vocabulary";

/** The Watch page: what each of its parts sees as `this`. */
export interface WatchPage
  extends Faults, Loading, Shortcuts, Transport,
    ReturnType<typeof lesson>, ReturnType<typeof clip>, ReturnType<typeof closer>, ReturnType<typeof screen>, ReturnType<typeof seek>,
    ReturnType<typeof stops>, ReturnType<typeof keyLines>, ReturnType<typeof vocabulary>, ReturnType<typeof drawn>, ReturnType<typeof tries> {}
