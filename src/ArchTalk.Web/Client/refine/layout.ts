// Where the rows lie, one below the other. Computes only.

export type RowName = "ruler" | "voice" | "boards" | "marks" | "chapters" | "terms" | "keyLines";

/** Upper edge and height in CSS pixels. */
export interface Row {
  top: number;
  height: number;
}

export interface Layout {
  rows: Partial<Record<RowName, Row>>;
  height: number;
}

/** Rows that a teacher switches on and off. */
export interface Extra {
  terms: boolean;
  keyLines: boolean;
}

const between = 4;
const thin = 26;

// The names beside the canvas stand at the same heights (site.css).
const always: readonly (readonly [RowName, number, number])[] = [
  ["ruler", 24, 0], ["voice", 80, between], ["boards", thin, between], ["marks", 30, between], ["chapters", thin, between],
];

export function layoutOf(extra: Extra): Layout {
  const switched = (["terms", "keyLines"] as const).filter((name) => extra[name]).map((name) => [name, thin, between] as const);
  const rows: Layout["rows"] = {};
  let top = 0;
  for (const [name, height, space] of [...always, ...switched]) {
    rows[name] = { top, height };
    top += height + space;
  }

  return { rows, height: top };
}

/** What lies at a height of the rows. */
export function rowAtHeight({ rows }: Layout, y: number): RowName | null {
  const names = Object.keys(rows) as RowName[];
  return names.find((r) => y >= rows[r]!.top && y < rows[r]!.top + rows[r]!.height) ?? null;
}
