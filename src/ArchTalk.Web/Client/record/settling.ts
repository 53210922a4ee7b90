// Asks the server on which words a stroke settles. Without an answer in time the stroke stays as it was drawn.

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

/**
 * @param points Flat: x, y in tenths of a unit.
 * @param take The take that runs; its token lets the question in also when the sign-in has expired.
 */
export async function settledOn(board: string, style: Style, points: readonly number[], take: OpenTake | null): Promise<Settled | null> {
  if (!mayBeAlongWords(style, points)) {
    return null;
  }

  const question = { board, isHighlighter: style.tool === "highlighter", points: points.map(Math.round) };
  const timeout = new Promise<null>((done) => setTimeout(() => done(null), withinMs));
  const answer = take ? withToken(take, question) : call<Answer>("POST", `${api}/settle`, question);
  return Promise.race([answer, timeout]).then((a) => a?.settled ?? null, () => null);
}

async function withToken({ take, token }: OpenTake, question: object): Promise<Answer | null> {
  const headers = { "X-Take-Token": token, "Content-Type": "application/json" };
  const response = await fetch(`/api/takes/${take}/settle`, { method: "POST", headers, body: JSON.stringify(question) });
  return response.ok ? ((await response.json()) as Answer) : null;
}
