import { part } from "./alpine";

/** Panels of which one is shown. Tabs carry their name in data-tab and lie in an element with the role tablist. */
export interface Tabs {
  tab: string;
  isTab(name: string): boolean;
  tabIndex(name: string): number;
  showTab(event: Event): void;
  showTabOf(name: string): void;
  /** Arrow keys lead from tab to tab. */
  stepTab(event: KeyboardEvent): void;
}

/**
 * @param first The panel that is shown at first.
 * @param shown Called when another one is chosen; `this` is the whole component.
 */
export const tabs = <Whole extends object>(first: string, shown: (this: Whole) => void = () => undefined): Tabs =>
  part<Tabs & Whole>()({
    tab: first,

    isTab(name: string): boolean {
      return this.tab === name;
    },

    tabIndex(name: string): number {
      return this.tab === name ? 0 : -1;
    },

    showTab(event: Event): void {
      this.showTabOf((event.currentTarget as HTMLElement).dataset["tab"]!);
    },

    showTabOf(name: string): void {
      this.tab = name;
      shown.call(this);
    },

    stepTab(event: KeyboardEvent): void {
      const next = tabAfter(event.currentTarget as HTMLElement, this.tab, event.key);
      if (next) {
        // The page's own arrow keys mean something else.
        event.preventDefault();
        event.stopPropagation();
        next.focus();
        next.click();
      }
    },
  });

/** The tab that an arrow key leads to from the one shown, in a ring; undefined for other keys. */
function tabAfter(root: HTMLElement, shown: string, key: string): HTMLElement | undefined {
  const by = key === "ArrowRight" ? 1 : key === "ArrowLeft" ? -1 : 0;
  const all = [...root.querySelectorAll<HTMLElement>("[data-tab]")];
  return by === 0 ? undefined : all[(all.findIndex((t) => t.dataset["tab"] === shown) + by + all.length) % all.length];
}
