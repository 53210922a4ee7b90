import type { Player } from "../player/player";
import { pageData } from "../shared/page-data";

/** What the server wrote into the Watch page. */
export const page = pageData<{ token: string; files: string; lengthMs: number }>("page-data");

let kept: Player | null = null;

/** The player, once the lesson is loaded; it must not be reactive. */
export function player(): Player | null {
  return kept;
}

export function setPlayer(made: Player): void {
  kept = made;
}
