// What the parts of Refine share: the lesson's addresses, the player and what the server said last.

import type { Player } from "../player/player";
import { pageData } from "../shared/page-data";

export const page = pageData<{ lesson: string; lastTakeMs: number }>("page-data");

export const api = `/api/lessons/${page.lesson}`;

export const files = `/lessons/${page.lesson}`;

/** The player, once the lesson is there, and what it plays. Kept here: an entry of a list that is drawn anew has lost the page's own. */
export const live: { player: Player | null; audio: HTMLAudioElement | null } = { player: null, audio: null };
