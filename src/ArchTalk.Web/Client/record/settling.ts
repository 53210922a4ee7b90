// Asks the server on which words a stroke settles. Without an answer in time the stroke stays as it was drawn, and Refine asks again.

import { call } from "../shared/api";
import type { Style } from "../scene/scene";
import { mayBeAlongWords } from "./along-words";
import type { Settled } from "./desk";
import type { OpenTake } from "./messages";
import { api } from "./page";

/** A busy server or a slow line may need a while (ms); later than this nobody would see why the stroke moves. */
const withinMs = 8000;

interface Answer {
  settled: Settled | null;
}

/** Nobody answered. */
export const unanswered = "unanswered";

/**
 * @param points Flat: x, y in tenths of a unit.
 * @returns Null when it was drawn along no words.
 * @param take The take that runs; its token lets the question in also when the sign-in has expired.
 */
export async function settledOn(
  board: string, style: Style, points: readonly number[], take: OpenTake | null,
): Promise<Settled | typeof unanswered | null> {
  if (!mayBeAlongWords(style, points)) {
    return null;
  }

  const question = { board, isHighlighter: style.tool === "highlighter", points: points.map(Math.round) };
  const timeout = new Promise<never>((_, refuse) => setTimeout(() => refuse(new Error("No answer in time.")), withinMs));
  const answer = take ? withToken(take, question) : call<Answer>("POST", `${api}/settle`, question);
  return Promise.race([answer, timeout]).then((a) => a.settled, () => unanswered);
}

async function withToken({ take, token }: OpenTake, question: object): Promise<Answer> {
  const headers = { "X-Take-Token": token, "Content-Type": "application/json" };
  const response = await fetch(`/api/takes/${take}/settle`, { method: "POST", headers, body: JSON.stringify(question) });
  if (!response.ok) {
    throw new Error(`The server answered with ${response.status}.`);
  }

  return (await response.json()) as Answer;
}
