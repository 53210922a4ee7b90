// What fields show of an item and read back from it. A member is named by its path, such as "figure.hour"; a type says how it is
// written: "text", "number" (of a field that the browser itself holds as a number), "lines", or "id" for what may be none; "int", "double",
// "numbers" and "points" (x; y; name) are sent as they are typed, and the server reads them as the lesson's language writes numbers.

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

/** Whether what is typed into a field of this type is read by the server. */
export const isReadByServer = (type: string) => ["int", "double", "numbers", "points"].includes(type);

/** A value as a field shows it; numbers as a language writes them. */
export function shown(value: unknown, type: string, language: string): string {
  const write = (n: number) => numberIn(n, language);
  switch (type) {
    case "int":
    case "double":
      return typeof value === "number" ? write(value) : "";
    case "lines":
      return ((value as string[] | undefined) ?? []).join("\n");
    case "numbers":
      return ((value as number[] | undefined) ?? []).map(write).join("; ");
    case "points":
      return ((value as Point[] | undefined) ?? []).map((p) => [write(p.x), write(p.y), ...(p.name ? [p.name] : [])].join("; ")).join("\n");
    default:
      return value === undefined || value === null ? "" : String(value);
  }
}

/** What was typed, as a value; undefined when it isn't one yet. */
export function typed(text: string, type: string): unknown {
  switch (type) {
    case "number":
      return text.trim() === "" || Number.isNaN(Number(text)) ? undefined : Number(text);
    case "lines":
      return text.split("\n").map((l) => l.trim()).filter(Boolean);
    case "id":
      return text || null;
    default:
      return text;
  }
}

function numberIn(value: number, language: string): string {
  return new Intl.NumberFormat(known(language), { useGrouping: false, maximumFractionDigits: 12 }).format(value);
}

function known(language: string): string {
  try {
    return Intl.getCanonicalLocales(language)[0] ?? "en";
  } catch {
    return "en";
  }
}
