// What was drawn in the lesson, for its row. It comes by itself: an hour of it would hold up every answer to an edit.

import { Backoff } from "../shared/backoff";

/** From and to in ms, and the style, by turns. */
export type Marks = Int32Array;

/**
 * Asks until it is there.
 * @param isWanted Whether the page still shows this lesson.
 * @returns null when it is another one meanwhile.
 */
export async function loadMarks(address: string, isWanted: () => boolean): Promise<Marks | null> {
  const pauses = new Backoff();
  while (isWanted()) {
    try {
      const answer = await fetch(address);
      if (answer.ok) {
        const marks = new Int32Array(await answer.arrayBuffer());
        return isWanted() ? marks : null;
      }
    } catch {
      // The page says at its next call to the server that it can't be reached.
    }

    await pauses.wait();
  }

  return null;
}
