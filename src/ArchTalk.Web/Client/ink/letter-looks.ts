// How single letters of what was typed look, as they are written down: a character for each UTF-16 unit (Core/Ink/Writing.cs).

import type { Look, Style } from "../scene/scene";

const signs = "0123456789abcdefghijklmnopqrstuvwxyz";
const highlights = 6;

/** What was typed, with a look for each of its UTF-16 units. */
export interface Writing {
  readonly text: string;
  readonly looks: string;
}

/** Of letters in the text's own ink, without a highlight. */
export const plain = "0";

/** One style of each ink of a tool, in their order. */
export function inksOf(styles: readonly Style[], tool: Style["tool"]): Style[] {
  return styles.filter((s, i) => s.tool === tool && styles.findIndex((o) => o.tool === tool && o.ink === s.ink) === i);
}

/** Whether looks say nothing. */
export function arePlain(looks: string): boolean {
  return [...looks].every((look) => look === plain);
}

/** @param ink Empty for the text's own. @param highlight Empty for none. */
export function lookOf(styles: readonly Style[], ink: string, highlight: string): string {
  const place = (tool: Style["tool"], name: string) => inksOf(styles, tool).findIndex((s) => s.ink === name) + 1;
  return signs[place("pen", ink) * highlights + place("highlighter", highlight)]!;
}

// What each letter's look stands for: an ink and a highlight, none for the text's own and for no highlight.
function stylesOf(looks: string, styles: readonly Style[]): { ink: Style | undefined; highlight: Style | undefined }[] {
  const [inks, marks] = [inksOf(styles, "pen"), inksOf(styles, "highlighter")];
  return [...looks].map((look) => {
    const number = Math.max(0, signs.indexOf(look));
    return { ink: inks[Math.floor(number / highlights) - 1], highlight: marks[(number % highlights) - 1] };
  });
}

/** What a text's looks say; null when they say nothing. */
export function readLooks(looks: string, styles: readonly Style[]): readonly Look[] | null {
  return arePlain(looks)
    ? null
    : stylesOf(looks, styles).map(({ ink, highlight }) => ({ color: ink?.color ?? null, highlight: highlight?.color ?? null }));
}

/** The looks with those of some letters changed: their ink, or their highlight. */
export function changedLooks(
  looks: string, from: number, to: number, styles: readonly Style[], change: { ink?: string; highlight?: string },
): string {
  const changed = stylesOf(looks.slice(from, to), styles)
    .map(({ ink, highlight }) => lookOf(styles, change.ink ?? ink?.ink ?? "", change.highlight ?? highlight?.ink ?? ""));
  return looks.slice(0, from) + changed.join("") + looks.slice(to);
}

/**
 * The looks after a key: those of letters that stay, and one look for what came in.
 * @param caret Where the caret is now.
 */
export function looksAfter(before: string, looks: string, after: string, caret: number, look: string): string {
  let behind = 0;
  while (behind < Math.min(before.length, after.length - caret) && before.at(-1 - behind) === after.at(-1 - behind)) {
    behind++;
  }

  let ahead = 0;
  while (ahead < Math.min(before.length, after.length) - behind && before[ahead] === after[ahead]) {
    ahead++;
  }

  return looks.slice(0, ahead) + look.repeat(after.length - ahead - behind) + looks.slice(before.length - behind);
}
