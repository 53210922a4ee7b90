// What was copied elsewhere, and what it can become here. A table says more than a picture of it, structure more than bare letters.

import { plain, type Run } from "../board/items";

export interface PastedText {
  paragraphs: Run[][];
  list: "none" | "dots" | "numbers";
}

/** The ways in which something pasted can be taken, the best first. */
export type Pasted =
  | { kind: "table"; rows: string[][] }
  | { kind: "structured"; text: PastedText }
  | { kind: "plain"; text: PastedText }
  | { kind: "picture"; file: File };

export function pastedWord(pasted: Pasted): string {
  switch (pasted.kind) {
    case "table":
      return `a table of ${pasted.rows.length} × ${Math.max(...pasted.rows.map((r) => r.length))}`;
    case "structured":
      return pasted.text.list === "none" ? "text with its looks" : "a list";
    case "plain":
      return "plain text";
    case "picture":
      return "a picture";
  }
}

/** Reads the clipboard. */
export function pastedFrom(data: DataTransfer | null): Pasted[] {
  const files = [...(data?.files ?? [])].filter((f) => f.type.startsWith("image/"));
  return choices(data?.getData("text/html") ?? "", data?.getData("text/plain") ?? "", files);
}

export function choices(html: string, text: string, files: File[]): Pasted[] {
  const body = html === "" ? null : new DOMParser().parseFromString(html, "text/html").body;
  const found: Pasted[] = [];
  const rows = (body && tableOf(body)) ?? cellsOf(text);
  if (rows) {
    found.push({ kind: "table", rows });
  }

  const structured = body && !rows ? structureOf(body) : null;
  if (structured) {
    found.push({ kind: "structured", text: structured });
  }

  // A browser offers the address of a copied picture as text beside it.
  const isOnlyPicture = files.length > 0 && !rows && (text.trim() === "" || (body !== null && body.textContent.trim() === ""));
  if (text.trim() !== "" && !isOnlyPicture) {
    found.push({
      kind: "plain",
      text: {
        paragraphs: text
          .trim()
          .split(/\r?\n/)
          .map((line) => [plain(line.replace(/\t/g, "  "))]),
        list: "none",
      },
    });
  }

  return [...found, ...files.map((file): Pasted => ({ kind: "picture", file }))];
}

/** Cells copied from a spreadsheet, or null when the text is no table. */
export function cellsOf(text: string): string[][] | null {
  const lines = text.replace(/\r/g, "").replace(/\n+$/, "").split("\n");
  return lines.some((l) => l.includes("\t")) ? lines.map((l) => l.split("\t").map((c) => c.trim())) : null;
}

// Cells that take the room of several are followed by empty ones, so that columns stay under each other.
function tableOf(body: HTMLElement): string[][] | null {
  const table = body.querySelector("table");
  if (!table || table.rows.length === 0) {
    return null;
  }

  const rows: string[][] = [];
  [...table.rows].forEach((row, r) => {
    const cells = (rows[r] ??= []);
    let column = 0;
    for (const cell of row.cells) {
      while (cells[column] !== undefined) {
        column++;
      }

      for (let down = 0; down < Math.min(cell.rowSpan || 1, table.rows.length - r); down++) {
        for (let across = 0; across < Math.min(cell.colSpan, 20); across++) {
          (rows[r + down] ??= [])[column + across] = down === 0 && across === 0 ? spaced(cell.textContent) : "";
        }
      }

      column += cell.colSpan;
    }
  });
  const full = rows.map((r) => Array.from(r, (c) => c ?? ""));
  return full.length === 1 && full[0]!.length === 1 ? null : full;
}

const blocks = "p, h1, h2, h3, h4, h5, h6, li, div, blockquote";

function structureOf(body: HTMLElement): PastedText | null {
  const entries = [...body.querySelectorAll<HTMLElement>("li")];
  const inner = [...body.querySelectorAll<HTMLElement>(blocks)].filter((b) => !b.querySelector(blocks) && spaced(b.textContent) !== "");
  const parts = inner.length > 0 ? inner : [body];
  const paragraphs = parts.map((b) => joinedRuns(runsOf(b, /^H[1-6]$/.test(b.tagName)))).filter((p) => p.some((r) => r.text.trim() !== ""));
  const isList = entries.length > 0 && inner.every((b) => b.closest("li"));
  const hasLooks = paragraphs.some((p) => p.some((r) => r.isBold));
  return isList || hasLooks || paragraphs.length > 1
    ? { paragraphs, list: isList ? (entries[0]!.parentElement?.tagName === "OL" ? "numbers" : "dots") : "none" }
    : null;
}

function runsOf(node: Node, isBold: boolean): Run[] {
  return [...node.childNodes].flatMap((child) => {
    if (child.nodeType === Node.TEXT_NODE) {
      const text = (child.textContent ?? "").replace(/\s+/g, " ");
      return text === "" ? [] : [{ ...plain(text), isBold }];
    }

    if (!(child instanceof HTMLElement) || /^(STYLE|SCRIPT)$/.test(child.tagName)) {
      return [];
    }

    const weight = child.style.fontWeight;
    return runsOf(
      child,
      weight === "normal" || weight === "400" ? false : isBold || /^(B|STRONG)$/.test(child.tagName) || weight === "bold" || Number(weight) >= 600,
    );
  });
}

function joinedRuns(runs: Run[]): Run[] {
  const joined: Run[] = [];
  for (const run of runs) {
    const last = joined.at(-1);
    if (last && last.isBold === run.isBold) {
      last.text = (last.text + run.text).replace(/ {2,}/g, " ");
    } else {
      joined.push({ ...run });
    }
  }

  if (joined.length > 0) {
    joined[0]!.text = joined[0]!.text.trimStart();
    joined.at(-1)!.text = joined.at(-1)!.text.trimEnd();
  }

  return joined.filter((r) => r.text !== "");
}

const spaced = (text: string | null) => (text ?? "").replace(/\s+/g, " ").trim();
