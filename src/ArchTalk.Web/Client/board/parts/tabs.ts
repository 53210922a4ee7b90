import { live } from "../page";
import { part } from "../../shared/alpine";
import { tabAfter } from "../../shared/tabs";
import type { BoardPage } from "./whole";

/** The panels beside the board. */
export const tabs = () =>
  part<BoardPage>()({
    tab: "item",
    isWorking: false,

    showTab(event: Event): void {
      this.tab = (event.currentTarget as HTMLElement).dataset["tab"]!;
      live.surface.mark([]);
      this.showsWords = false;
      if (this.tab === "picture") {
        void this.showPicture();
      } else if (this.tab === "seen") {
        void this.showSeen();
      }
    },

    isTab(name: string): boolean {
      return this.tab === name;
    },

    tabIndex(name: string): number {
      return this.tab === name ? 0 : -1;
    },

    stepTab(event: KeyboardEvent): void {
      const next = tabAfter(this.$root, this.tab, event.key);
      next?.focus();
      next?.click();
    },

    async work(task: () => Promise<unknown>): Promise<void> {
      this.isWorking = true;
      await this.attempt(task);
      this.isWorking = false;
    },
  });
