import type { Transport } from "../../player/transport";
import type { Faults } from "../../shared/faults";
import type { Loading } from "../../shared/loading";
import type { Shortcuts } from "../../shared/shortcuts";
import type { Stepping } from "../../shared/stepping";
import type { Tabs } from "../../shared/tabs";
import type { Voice } from "../voice";
import type { chapters } from "./chapters";
import type { choosing } from "./choosing";
import type { edges } from "./edges";
import type { edits } from "./edits";
import type { history } from "./history";
import type { listening } from "./listening";
import type { moving } from "./moving";
import type { opening } from "./opening";
import type { pointing } from "./pointing";
import type { rowsPart } from "./rows";
import type { stops } from "./stops";
import type { toDo } from "./to-do";

/** The whole Refine page, which its parts call each other through. */
export interface RefinePage
  extends Faults, Loading, Shortcuts, Stepping, Tabs, Transport, Voice, ReturnType<typeof chapters>, ReturnType<typeof edits>,
    ReturnType<typeof history>, ReturnType<typeof listening>, ReturnType<typeof opening>, ReturnType<typeof moving>,
    ReturnType<typeof choosing>, ReturnType<typeof edges>, ReturnType<typeof pointing>, ReturnType<typeof rowsPart>,
    ReturnType<typeof stops>, ReturnType<typeof toDo> {}
