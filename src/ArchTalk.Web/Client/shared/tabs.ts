/** The tab that an arrow key leads to from the one shown, in a ring; undefined for other keys. Tabs carry their name in data-tab. */
export function tabAfter(root: HTMLElement, shown: string, key: string): HTMLElement | undefined {
  const by = key === "ArrowRight" ? 1 : key === "ArrowLeft" ? -1 : 0;
  const all = [...root.querySelectorAll<HTMLElement>("[data-tab]")];
  return by === 0 ? undefined : all[(all.findIndex((t) => t.dataset["tab"] === shown) + by + all.length) % all.length];
}
