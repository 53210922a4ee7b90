// Where a moment is in the lesson: the rule of Arrangement.Places and MomentAt in C#, over the placements of timeline.json. Both
// are held to the cases in tests/Shared/places.json.

import type { PlacementEntry, StretchEntry } from "./files";

/** A point in what was recorded, kept for coming back: it stays right when the lesson is published anew. */
export interface Moment {
  take: string;
  sample: number;
}

export const samplesPerMs = 48;

/** What becomes of a moment that was taken out: it is at the join (a chapter, a stop), or nowhere (a term said, a mark). */
export type WhenCut = "snap" | "drop";

/** The places of a moment in ms, in order: none, or one or more. */
export function placesOf(placements: readonly PlacementEntry[], moment: Moment, whenCut: WhenCut): number[] {
  const places: number[] = [];
  for (const placement of placements.filter((p) => p.take === moment.take)) {
    const piece = placement.pieces.find((p) => p.source[0] <= moment.sample && moment.sample < p.source[1]);
    if (!piece || piece.kind === "takenBack" || (piece.kind === "cut" && whenCut === "drop")) {
      continue;
    }

    const share = (moment.sample - piece.source[0]) / (piece.source[1] - piece.source[0]);
    const at = Math.round(piece.target[0] + share * (piece.target[1] - piece.target[0])) / samplesPerMs;
    if (places.at(-1) !== at) {
      places.push(at);
    }
  }

  if (places.length === 0 && whenCut === "snap") {
    const isThere = (s: StretchEntry): boolean => s.take === moment.take && s.source[0]! <= moment.sample && moment.sample < s.source[1]!;
    const instead = placements.find((p) => p.insteadOf?.some(isThere));
    return instead ? [instead.pieces[0]!.target[0]! / samplesPerMs] : [];
  }

  return places;
}

/** The moment heard at a time; at the end and after it the last one; null in a lesson without recording. */
export function momentAt(placements: readonly PlacementEntry[], ms: number): Moment | null {
  const length = placements.at(-1)?.pieces.at(-1)?.target[1] ?? 0;
  if (length === 0) {
    return null;
  }

  const lesson = Math.min(Math.round(ms * samplesPerMs), length - 1);
  for (const { take, pieces } of placements) {
    const piece = pieces.find((p) => p.target[0] <= lesson && lesson < p.target[1]);
    if (piece) {
      const share = (lesson - piece.target[0]) / (piece.target[1] - piece.target[0]);
      return { take, sample: Math.round(piece.source[0] + share * (piece.source[1] - piece.source[0])) };
    }
  }

  return null;
}
