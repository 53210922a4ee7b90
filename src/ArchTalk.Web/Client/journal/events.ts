// What is done on the boards, as the journal keeps it. The shapes below are the one place that lists the kinds of events and
// their members; the types are made of them, and a test holds them against Core/Recording/TakeEvent.cs, both ways.

interface Values {
  /** A whole number. */
  int: number;
  /** The browser's own stamp (`event.timeStamp`) in ms. */
  stamp: number;
  guid: string;
  text: string;
  flag: boolean;
  /** Whole numbers, flat. */
  ints: number[];
  texts: string[];
}

export const eventShapes = {
  /** A stroke begins; its number is also the number of the action that undo takes back. */
  stroke: { s: "int", b: "guid", tool: "text", ink: "text", w: "text" },
  /** Points of a stroke, flat: x and y in tenths of a board unit, pressure 0 to 255, stamp in tenths of a millisecond. */
  points: { s: "int", d: "ints" },
  /** The pen was lifted: the stroke is finished. */
  lift: { s: "int", t: "stamp" },
  /** The stroke was not meant and never was. */
  cancel: { s: "int" },
  /** Whole strokes were erased: "12" of this take, "take:12" of an earlier one. */
  erase: { t: "stamp", a: "int", s: "texts" },
  /** A stroke has settled on words: from and to (x, y, x, y in tenths of a unit), the height of their line, the words. */
  settle: { t: "stamp", a: "int", s: "int", d: "ints", h: "int", x: "text" },
  /** Nobody answered on which words a stroke settles, and as what kind of key line; empty for none. */
  unsettled: { t: "stamp", s: "int", k: "text" },
  /** Strokes are a key line, named by the first; the kind is empty when it is none any more. */
  key: { t: "stamp", n: "ints", k: "text", x: "text", m: "flag" },
  /** The whole text as it was typed so far, at its place (x, y) in letters of a size (the em), in tenths of a unit, and its letters' looks. */
  type: { t: "stamp", n: "int", b: "guid", p: "ints", z: "int", ink: "text", x: "text", l: "text" },
  undo: { t: "stamp", a: "int" },
  redo: { t: "stamp", a: "int" },
  board: { t: "stamp", b: "guid" },
  /** Left, top and width of the view, in tenths of a board unit. */
  view: { t: "stamp", b: "guid", v: "ints" },
  /** The pointer, flat: x, y in tenths of a board unit, stamp in tenths of a millisecond. */
  pointer: { b: "guid", d: "ints" },
  away: { t: "stamp" },
  /** The board is now so many units high. */
  grow: { t: "stamp", b: "guid", h: "int" },
  /** A region is lit up, flat: x, y in tenths of a unit; empty puts the light out. */
  light: { t: "stamp", b: "guid", d: "ints" },
  cover: { t: "stamp", b: "guid", i: "guid", u: "flag" },
  /** Something is noted, under a number of its own; again under the same number it says something else about the same moment. */
  note: { t: "stamp", n: "int", k: "text", s: "text", w: "int" },
  /** A note that a term of the vocabulary is said: its id, and its word. */
  term: { t: "stamp", n: "int", i: "guid", x: "text" },
  unnote: { t: "stamp", n: "int" },
  /** The stretch that a note began is over. */
  over: { t: "stamp", n: "int" },
  /** The take is recorded for a place of the lesson, from and until a moment: take and sample. */
  place: { t: "stamp", a: "guid", f: "int", b: "guid", u: "int" },
  /** What was done since an earlier moment is taken back; the moment is named by its segment and the sample in it. */
  retake: { t: "stamp", g: "int", n: "int" },
} as const;

type Shapes = typeof eventShapes;
type Members<S> = { -readonly [P in keyof S]: S[P] extends keyof Values ? Values[S[P]] : never };

export type JournalEvent = { [K in keyof Shapes]: { e: K } & Members<Shapes[K]> }[keyof Shapes];

/** Something done on the boards; `e` says what. Going back is none (whoever does it takes up an earlier state), nor is the take's place. */
export type BoardEvent = Exclude<JournalEvent, { e: "retake" | "place" }>;

/** Takes in what is to be journalled. */
export type Journal = (event: BoardEvent) => void;
