// The keys of Record that can be changed: a single character each. Computes only.

/** What a key does: its name, and how it is told. */
export const deeds = {
  pen: "Pen",
  highlighter: "Highlighter",
  eraser: "Eraser",
  pointer: "Pointer",
  slide: "Slide",
  straight: "Straight",
  arrow: "Arrow",
  "close-up": "Close-up",
  light: "Light up",
  type: "Type",
  retake: "Retake",
  ask: "Ask and wait",
  chapter: "Chapter",
  later: "Fix later",
  once: "Only this time",
  term: "The next term said",
  key: "Key line",
  out: "Light out",
  closer: "Closer",
  farther: "Farther",
  whole: "Whole board",
} as const;

export type Deed = keyof typeof deeds;

export type Keys = Readonly<Record<Deed, string>>;

export const usual: Keys = {
  pen: "1", highlighter: "2", eraser: "3", pointer: "4", slide: "5", straight: "6", arrow: "7", "close-up": "8", light: "9", type: "t",
  retake: "r", ask: "a", chapter: "c", later: "f", once: "o", term: "w", key: "k", out: "l", closer: "+", farther: "-", whole: "0",
};

/** Those that are kept, where they make sense: a deed that is new has its usual key, and if then a key would do two things all are as usual. */
export function keysFrom(kept: Partial<Record<string, string>>): Keys {
  const keys: Record<Deed, string> = { ...usual };
  for (const deed of Object.keys(deeds) as Deed[]) {
    const key = kept[deed];
    keys[deed] = typeof key === "string" && key.length === 1 ? key : usual[deed];
  }

  return new Set(Object.values(keys)).size === Object.keys(deeds).length ? keys : usual;
}

export function deedOf(keys: Keys, key: string): Deed | null {
  return (Object.keys(deeds) as Deed[]).find((d) => keys[d] === key) ?? null;
}

/** The keys with another one for a deed, or why it can't be. The one that had that key before changes places with it. */
export function changed(keys: Keys, deed: Deed, key: string): { keys: Keys; swapped: Deed | null } | string {
  const letter = key.length === 1 ? key.toLowerCase() : key;
  if (letter.length !== 1 || letter === " " || letter === "?") {
    return "Press a letter, a digit or a sign. Space, ? and keys with a name of their own keep what they do.";
  }

  const other = deedOf(keys, letter);
  return other === deed || other === null
    ? { keys: { ...keys, [deed]: letter }, swapped: null }
    : { keys: { ...keys, [deed]: letter, [other]: keys[deed] }, swapped: other };
}
