import type { Faults } from "../../shared/faults";
import type { Loading } from "../../shared/loading";
import type { Shortcuts } from "../../shared/shortcuts";
import type { Stepping } from "../../shared/stepping";
import type { beside } from "./beside";
import type { boards } from "./boards";
import type { keyLines } from "./key-lines";
import type { keys } from "./keys";
import type { legible } from "./legible";
import type { leftovers } from "./leftovers";
import type { microphone } from "./microphone";
import type { noted } from "./noted";
import type { place } from "./place";
import type { plan } from "./plan";
import type { retake } from "./retake";
import type { setup } from "./setup";
import type { soundCheck } from "./sound-check";
import type { strip } from "./strip";
import type { take } from "./take";
import type { takes } from "./takes";
import type { toolbar } from "./toolbar";
import type { typing } from "./typing";

/** The Record page: what each of its parts sees as `this`. */
export interface RecordPage
  extends Faults, Loading, Shortcuts, Stepping,
    ReturnType<typeof setup>, ReturnType<typeof microphone>, ReturnType<typeof soundCheck>, ReturnType<typeof take>, ReturnType<typeof retake>,
    ReturnType<typeof noted>,
    ReturnType<typeof plan>, ReturnType<typeof place>, ReturnType<typeof keys>,
    ReturnType<typeof keyLines>, ReturnType<typeof typing>, ReturnType<typeof strip>, ReturnType<typeof legible>,
    ReturnType<typeof takes>, ReturnType<typeof leftovers>, ReturnType<typeof toolbar>, ReturnType<typeof boards>, ReturnType<typeof beside> {}
