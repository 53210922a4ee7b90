import { boards } from "../prepare/boards";
import { details } from "../prepare/details";
import { references } from "../prepare/references";
import { task } from "../prepare/task";
import { vocabulary } from "../prepare/vocabulary";
import { component, start } from "../shared/alpine";

/** Which list is shown beside the boards. */
const tabs = () =>
  component({
    shown: "details",

    show(event: Event) {
      this.shown = (event.currentTarget as HTMLElement).dataset["tab"]!;
    },

    step(event: KeyboardEvent) {
      const all = [...this.$root.querySelectorAll<HTMLElement>("[data-tab]")];
      const by = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
      if (by !== 0) {
        const next = all[(all.findIndex((t) => t.dataset["tab"] === this.shown) + by + all.length) % all.length]!;
        this.shown = next.dataset["tab"]!;
        next.focus();
      }
    },

    is(name: string): boolean {
      return this.shown === name;
    },

    tabIndex(name: string): number {
      return this.shown === name ? 0 : -1;
    },
  });

start({ boards, details, vocabulary, references, task, tabs });
