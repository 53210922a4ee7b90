// The items of a board as the page edits them. Mirrors Core/Boards/Items; nothing here touches the page.

import type { PlacedDrawing } from "../ink/drawing";
import { newId } from "../shared/ids";
import type { Box } from "./snapping";
import type { PastedText } from "../shared/pasted";
import type { SectionView } from "../shared/section-list";

export interface Run {
  text: string;
  isBold: boolean;
  color: string;
  highlight: string;
  ruby: string;
  language: string;
}

export interface Cell {
  text: string;
  isBlank: boolean;
  answers: string[];
}

interface Base {
  id: string;
  x: number;
  y: number;
  width: number;
  height: number;
  isLocked: boolean;
  /** What was typed into fields that hold numbers, as it was typed; the server reads it. */
  typed?: Record<string, string>;
}

export type TextItem = Base & { kind: "text"; size: string; align: string; list: string; paragraphs: Run[][] };
export type FormulaItem = Base & { kind: "formula"; tex: string; mathMl: string; svg: string; problem: string; color: string; size: string };
export type TableItem = Base & { kind: "table"; rows: Cell[][]; hasHeaderRow: boolean; hasHeaderColumn: boolean; size: string };
export type LabelItem = Base & { kind: "label"; text: string; tipX: number; tipY: number; termId: string | null; language: string; number: number };
export type CoverItem = Base & { kind: "cover"; text: string };
export type BlankItem = Base & { kind: "blank"; isBox: boolean; answers: string[] };
export type FigureItem = Base & { kind: "figure"; figure: { figure: string } & Record<string, unknown> };
export type PictureItem = Base & { kind: "picture"; file: string; shape: number; crop: Box; turn: number; alternativeText: string };
export type Item = TextItem | FormulaItem | TableItem | LabelItem | CoverItem | BlankItem | FigureItem | PictureItem;
export type Kind = Item["kind"];

/** A label in the list beside the board. */
export interface LabelView {
  id: string;
  number: number;
  text: string;
  termId: string | null;
}

/** The items as the server has them, with how they look and their labels in both orders. */
export interface ItemsView extends SectionView<Item[]> {
  drawings: PlacedDrawing[];
  notices: Record<string, string>;
  labels: LabelView[];
  alphabetical: string[];
}

export const kindWords: Record<Kind, string> = {
  text: "Text",
  formula: "Formula",
  table: "Table",
  label: "Label",
  cover: "Cover",
  blank: "Blank to fill",
  figure: "Figure",
  picture: "Picture",
};

export const figureWords: Record<string, string> = {
  clock: "Clock face",
  numberLine: "Number line",
  placeValue: "Place-value chart",
  cubes: "Box of unit cubes",
  axes: "Axes",
};

/** The items as they begin; Core's. */
export interface Templates {
  text: TextItem;
  formula: FormulaItem;
  table: TableItem;
  label: LabelItem;
  cover: CoverItem;
  blank: BlankItem;
  figures: Record<string, FigureItem>;
  widestTable: number;
  tableColumn: number;
}

export const plain = (text: string): Run => ({ text, isBold: false, color: "", highlight: "", ruby: "", language: "" });

/** Makes new items from how they begin, each with an identity of its own. */
export class ItemMaker {
  /** @param language The lesson's, in which figures write numbers. */
  constructor(
    private readonly templates: Templates,
    private readonly language: string,
  ) {}

  text(x: number, y: number, text: string, width = this.templates.text.width): TextItem {
    return { ...fresh(this.templates.text, x, y), width, paragraphs: text.split("\n").map((line) => [plain(line)]) };
  }

  /** Text with the looks it was copied with. */
  pasted(text: PastedText, width?: number): TextItem {
    const item = this.text(0, 0, "", width);
    return { ...item, paragraphs: text.paragraphs, list: text.list };
  }

  /** A formula as large as it was typeset. */
  formula(tex: string, typeset: { svg: string; mathMl: string }, em: number): FormulaItem {
    const [, , width, height] = (/viewBox="([^"]+)"/.exec(typeset.svg)?.[1] ?? "").split(" ").map(Number);
    return { ...fresh(this.templates.formula, 0, 0), tex, ...typeset, width: ((width ?? 0) * em) / 1000, height: ((height ?? 0) * em) / 1000 };
  }

  table(x: number, y: number, rows: string[][]): TableItem {
    const { table, tableColumn, widestTable } = this.templates;
    const columns = Math.max(...rows.map((r) => r.length));
    const cells = rows.map((row) => Array.from({ length: columns }, (_, i): Cell => ({ text: row[i] ?? "", isBlank: false, answers: [] })));
    return { ...fresh(table, x, y), width: Math.min(widestTable, columns * tableColumn), rows: cells };
  }

  /** A label whose line ends at a place; its words stand on the side where there is more room. */
  label(tipX: number, tipY: number, boardHeight: number): LabelItem {
    const x = tipX < 800 ? Math.min(tipX + 180, 1300) : Math.max(tipX - 380, 20);
    const y = tipY < boardHeight / 2 ? Math.max(tipY - 120, 10) : Math.min(tipY + 60, boardHeight - 80);
    return { ...fresh(this.templates.label, x, y), tipX, tipY };
  }

  cover(x: number, y: number): CoverItem {
    return fresh(this.templates.cover, x, y);
  }

  blank(x: number, y: number): BlankItem {
    return fresh(this.templates.blank, x, y);
  }

  figure(x: number, y: number, name: string): FigureItem {
    const item = fresh(this.templates.figures[name]!, x, y);
    return "locale" in item.figure ? { ...item, figure: { ...item.figure, locale: this.language } } : item;
  }
}

function fresh<T extends Item>(template: T, x: number, y: number): T {
  return { ...(JSON.parse(JSON.stringify(template)) as T), id: newId(), x, y };
}

/**
 * The first place where an item covers no other: from what is seen of the board downwards, then from the board's top; below everything
 * when there is none, so that the board must be made longer.
 */
export function freePlace(item: Item, others: Item[], top: number, boardHeight: number): { x: number; y: number } {
  const [gap, step] = [20, 40];
  const isFree = (x: number, y: number) =>
    others.every((o) => x >= o.x + o.width + gap || o.x >= x + item.width + gap || y >= o.y + o.height + gap || o.y >= y + item.height + gap);
  for (const from of [top + 60, 20]) {
    for (let y = from; y + item.height <= boardHeight; y += step) {
      for (
        let x = Math.min(100, Math.max(0, 1600 - gap - item.width));
        x + item.width <= Math.max(1600 - gap, Math.min(1600, item.width));
        x += step
      ) {
        if (isFree(x, y)) {
          return { x, y };
        }
      }
    }
  }

  const lowest = Math.max(0, ...others.map((o) => o.y + o.height));
  return { x: Math.min(100, Math.max(0, 1600 - item.width)), y: Math.max(lowest + gap, 20) };
}

/** An item a little narrower than the board, in its own shape, when it would reach over the board's edge. */
export function fitting<T extends Item>(item: T): T {
  const most = 1520;
  return item.width <= most || item.kind === "formula"
    ? item
    : { ...item, width: most, height: item.kind === "picture" || item.kind === "figure" ? (item.height * most) / item.width : item.height };
}

/** Copies with identities of their own, a little aside. */
export function duplicated(items: Item[], aside = 30): Item[] {
  return items.map((item) => moved({ ...structuredClone(item), id: newId() } as Item, aside, aside));
}

/** An item moved; the words of a label move alone, a whole label moves when `withTip` is true. */
export function moved(item: Item, dx: number, dy: number, withTip = true): Item {
  const there = { ...item, x: item.x + dx, y: item.y + dy };
  return there.kind === "label" && withTip ? { ...there, tipX: there.tipX + dx, tipY: there.tipY + dy } : there;
}

/** Which sides of an item can be pulled: letters never change their size by it. */
export function handlesOf(item: Item): string[] {
  switch (item.kind) {
    case "text":
    case "table":
      return ["w", "e"];
    case "picture":
      return ["nw", "ne", "se", "sw"];
    case "cover":
    case "blank":
    case "figure":
      return ["nw", "n", "ne", "e", "se", "s", "sw", "w"];
    default:
      return [];
  }
}

/** The item with one side or corner pulled by a distance; it keeps a least size. */
export function pulled(item: Item, handle: string, dx: number, dy: number, least = 24): Item {
  let { x, y, width, height } = item;
  if (handle.includes("e")) {
    width = Math.max(least, width + dx);
  } else if (handle.includes("w")) {
    const by = Math.min(dx, width - least);
    x += by;
    width -= by;
  }

  if (handle.includes("s")) {
    height = Math.max(least, height + dy);
  } else if (handle.includes("n")) {
    const by = Math.min(dy, height - least);
    y += by;
    height -= by;
  }

  if (item.kind === "picture") {
    // A picture keeps its shape, and the corner that isn't pulled its place.
    const kept = (width * item.height) / item.width;
    y = handle.includes("n") ? item.y + item.height - kept : item.y;
    height = kept;
  }

  return { ...item, x, y, width, height };
}

/** The words of an item, for the list of items and for screen readers. */
export function wordsOf(item: Item): string {
  switch (item.kind) {
    case "text":
      return item.paragraphs.map((p) => p.map((r) => r.text).join("")).join(" ");
    case "formula":
      return item.tex;
    case "table":
      return `${item.rows.length} rows, ${item.rows[0]?.length ?? 0} columns`;
    case "label":
    case "cover":
      return item.text;
    case "blank":
      return item.answers.join(", ");
    case "picture":
      return item.alternativeText;
    case "figure":
      return figureWords[item.figure.figure] ?? "";
  }
}
