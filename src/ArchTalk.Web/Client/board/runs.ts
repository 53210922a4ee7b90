// Writing whose letters look different: changing the look of a stretch. Nothing here touches the page.

import { type Run, plain } from "./items";

export type Look = Partial<Pick<Run, "isBold" | "color" | "highlight" | "ruby" | "language">>;

/** A place in the writing: which paragraph, and how many characters into it. */
export interface Place {
  paragraph: number;
  offset: number;
}

/** The paragraphs with a look given to what lies between two places. */
export function withLook(paragraphs: Run[][], from: Place, to: Place, look: Look): Run[][] {
  return paragraphs.map((runs, i) => {
    if (i < from.paragraph || i > to.paragraph) {
      return runs;
    }

    const start = i === from.paragraph ? from.offset : 0;
    const end = i === to.paragraph ? to.offset : lengthOf(runs);
    return joined([...slice(runs, 0, start), ...slice(runs, start, end).map((r) => ({ ...r, ...look })), ...slice(runs, end, Infinity)]);
  });
}

/** Whether every letter between two places has a look. */
export function hasLook(paragraphs: Run[][], from: Place, to: Place, look: Look): boolean {
  const within = paragraphs.flatMap((runs, i) =>
    i < from.paragraph || i > to.paragraph ? [] : slice(runs, i === from.paragraph ? from.offset : 0, i === to.paragraph ? to.offset : Infinity));
  return within.length > 0 && within.every((r) => Object.entries(look).every(([key, value]) => r[key as keyof Run] === value));
}

export function lengthOf(runs: Run[]): number {
  return runs.reduce((sum, r) => sum + r.text.length, 0);
}

/** Runs that look alike and touch, as one; at least one, however empty. */
export function joined(runs: Run[]): Run[] {
  const out: Run[] = [];
  for (const run of runs) {
    const last = out.at(-1);
    if (last && run.ruby === "" && looksLike(last, run)) {
      out[out.length - 1] = { ...last, text: last.text + run.text };
    } else if (run.text) {
      out.push(run);
    }
  }

  return out.length > 0 ? out : [plain("")];
}

function looksLike(a: Run, b: Run): boolean {
  return a.isBold === b.isBold && a.color === b.color && a.highlight === b.highlight && a.ruby === b.ruby && a.language === b.language;
}

function slice(runs: Run[], start: number, end: number): Run[] {
  const out: Run[] = [];
  let at = 0;
  for (const run of runs) {
    const text = run.text.slice(Math.max(0, start - at), Math.max(0, end - at));
    if (text) {
      out.push({ ...run, text });
    }

    at += run.text.length;
  }

  return out;
}
