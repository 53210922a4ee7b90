import { part } from "../../shared/alpine";
import { tabAfter } from "../../shared/tabs";
import type { RefinePage } from "./whole";

/** The card beside the board: what is to do, chapters and stops, what was taken out, the history, the voice. */
export const card = () =>
  part<RefinePage>()({
    tab: "todo",

    isTab(name: string): boolean {
      return this.tab === name;
    },

    tabIndex(name: string): string {
      return this.tab === name ? "0" : "-1";
    },

    showTab(event: Event): void {
      this.showTabOf((event.currentTarget as HTMLElement).dataset["tab"]!);
    },

    showTabOf(name: string): void {
      this.tab = name;
      this.takeRows();
    },

    stepTab(event: KeyboardEvent): void {
      const next = tabAfter(event.currentTarget as HTMLElement, this.tab, event.key);
      if (next) {
        event.preventDefault();
        event.stopPropagation();
        this.showTabOf(next.dataset["tab"]!);
        next.focus();
      }
    },
  });
