import type { Player } from "../player/player";
import { pageData } from "../shared/page-data";

/** A film or sound on a board that the student can play. */
export interface Clip {
  id: string;
  title: string;
  hasPicture: boolean;
  startMs: number;
  endMs: number;
  files: string[];
}

/** What the server wrote into the Watch page. */
export const page = pageData<{ token: string; files: string; lengthMs: number; clips: Clip[] }>("page-data");

let kept: Player | null = null;

/** The player, once the lesson is loaded; it must not be reactive. */
export function player(): Player | null {
  return kept;
}

export function setPlayer(made: Player): void {
  kept = made;
}
