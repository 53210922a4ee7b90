import type { Player } from "../player/player";
import { SmallPictures } from "../player/small-pictures";
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
let pictures: SmallPictures | null = null;

/** The player, once the lesson is loaded; it must not be reactive. */
export function player(): Player | null {
  return kept;
}

/** Small pictures of parts of the lesson's boards, once it is loaded. */
export function smallPictures(): SmallPictures | null {
  return pictures;
}

export function setPlayer(made: Player): void {
  kept = made;
  pictures = new SmallPictures(made.timeline);
}
