// What fields show of an item and read back from it. A member is named by its path, such as "figure.hour"; a type says how it is
// written: "text", "int", "number", "lines", "numbers" and "points" (x; y; name), or "id" for what may be none.

export interface Point {
  x: number;
  y: number;
  name: string;
}

/** The value of a member. */
export function read(from: unknown, path: string): unknown {
  return path.split(".").reduce<unknown>((value, name) => (value as Record<string, unknown> | null | undefined)?.[name], from);
}

/** The same item with a member changed, in place. */
export function written<T>(item: T, path: string, value: unknown): T {
  const names = path.split(".");
  const last = names.pop()!;
  const owner = (names.length > 0 ? read(item, names.join(".")) : item) as Record<string, unknown>;
  owner[last] = value;
  return item;
}

/** A value as a field shows it. */
export function shown(value: unknown, type: string): string {
  switch (type) {
    case "lines":
      return ((value as string[] | undefined) ?? []).join("\n");
    case "numbers":
      return ((value as number[] | undefined) ?? []).join("; ");
    case "points":
      return ((value as Point[] | undefined) ?? []).map((p) => [p.x, p.y, ...(p.name ? [p.name] : [])].join("; ")).join("\n");
    default:
      return value === undefined || value === null ? "" : String(value);
  }
}

/** What was typed, as a value; undefined when it isn't one yet. */
export function typed(text: string, type: string): unknown {
  switch (type) {
    case "int":
    case "number": {
      const value = type === "int" ? Math.round(number(text)) : number(text);
      return Number.isNaN(value) ? undefined : value;
    }
    case "lines":
      return text.split("\n").map((l) => l.trim()).filter(Boolean);
    case "numbers":
      return text.split(/[;\s]+/).map(number).filter((n) => !Number.isNaN(n));
    case "points":
      return text.split("\n").map((l) => l.split(";")).map(([x, y, name]): Point => ({ x: number(x), y: number(y), name: (name ?? "").trim() }))
        .filter((p) => !Number.isNaN(p.x) && !Number.isNaN(p.y));
    case "id":
      return text || null;
    default:
      return text;
  }
}

// With a comma or a point, and with either minus sign; nothing is no number.
function number(text: string | undefined): number {
  const plain = (text ?? "").trim().replace(",", ".").replace("−", "-");
  return plain === "" ? NaN : Number(plain);
}
