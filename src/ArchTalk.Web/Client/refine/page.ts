// What the parts of Refine share: the lesson's addresses, the player and what the server said last.

import type { Player } from "../player/player";
import { pageData } from "../shared/page-data";
import type { Marks } from "./marks";
import type { RefineView } from "./view";

export const page = pageData<{ lesson: string; lastTakeMs: number; terms: Record<string, string> }>("page-data");

export const api = `/api/lessons/${page.lesson}`;

export const files = `/lessons/${page.lesson}`;

/** What the server answers before there is anything. */
export const nothing: RefineView = {
  version: 0, canUndo: false, canRedo: false, revision: 0, lengthMs: 0, wholeMs: 0,
  phrases: [], proposals: [], edits: [], stops: [], leavesOutTemporary: false, steps: [],
};

/**
 * The player, once the lesson is there, and what it plays; what the server said last and what was drawn, for the rows: an hour has too much of it
 * to be watched one by one. Kept here, too, since an entry of a list that is drawn anew has lost the page's own elements.
 */
export const live: { player: Player | null; audio: HTMLAudioElement | null; view: RefineView; marks: Marks } = {
  player: null, audio: null, view: nothing, marks: new Int32Array(),
};
