// What the parts of the board page share: what the server wrote into it, and what must not be reactive.

import type { PlacedDrawing } from "../ink/drawing";
import type { SectionList } from "../shared/section-list";
import { pageData } from "../shared/page-data";
import { type Item, ItemMaker, type ItemsView, type Templates } from "./items";
import type { Colors, RichText } from "./rich-text";
import type { Surface } from "./surface";

export interface EditedBoard {
  id: string;
  title: string;
  kind: string;
  height: number;
  medium: string | null;
  large: string | null;
  notes: string;
  alternativeText: string;
  canBeScanned: boolean;
  clip: { hasPicture: boolean; lengthMs: number; startMs: number; endMs: number; files: string[] } | null;
}

export interface Word {
  text: string;
  x: number;
  y: number;
  width: number;
  height: number;
  confidence: number | null;
}

/** A place on a picture, as shares of its width and height. */
export interface Spot {
  x: number;
  y: number;
}

export interface Corners {
  topLeft: Spot;
  topRight: Spot;
  bottomRight: Spot;
  bottomLeft: Spot;
}

export interface Scan {
  turn: number;
  corners?: Corners | null;
  degrees: number;
  left: number;
  top: number;
  right: number;
  bottom: number;
  raisesContrast: boolean;
}

/** A place that students may not be able to read, said by Core. */
export interface Finding {
  text: string;
  x: number;
  y: number;
  width: number;
  height: number;
}

/** How the board is seen on one screen. */
export interface Seen {
  screen: { name: string };
  smallest: string;
  groups: { kind: number; title: string; count: number; findings: Finding[] }[];
}

export const page = pageData<{
  lesson: string;
  /** The lesson's own. */
  language: string;
  board: EditedBoard;
  boards: { id: string; title: string }[];
  terms: { id: string; word: string }[];
  colors: Colors;
  sizes: Record<string, number>;
  heights: { growBy: number; roomBelow: number };
  templates: Templates;
}>("page-data");

export const api = `/api/lessons/${page.lesson}/boards/${page.board.id}`;

/** Makes new items. */
export const maker = new ItemMaker(page.templates, page.language);

/** A change is saved when the teacher rests for so long. */
export const restMs = 350;

/** Set when the page is set up; Alpine would wrap these in proxies. */
export const live = { drawings: [] as PlacedDrawing[] } as {
  surface: Surface;
  /** What the board is slid in. Asked for through a button that is gone by then, the page wouldn't find it. */
  frame: HTMLElement;
  store: SectionList<Item[], ItemsView>;
  writing: RichText;
  drawings: PlacedDrawing[];
};

/** A copy without proxies. */
export function plainCopy(items: Item[]): Item[] {
  return JSON.parse(JSON.stringify(items)) as Item[];
}
