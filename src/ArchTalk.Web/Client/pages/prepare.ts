import { boards } from "../prepare/boards";
import { details } from "../prepare/details";
import { references } from "../prepare/references";
import { task } from "../prepare/task";
import { vocabulary } from "../prepare/vocabulary";
import { component, start } from "../shared/alpine";
import { tabAfter } from "../shared/tabs";

/** Which list is shown beside the boards. */
const tabs = () =>
  component({
    shown: "details",

    show(event: Event) {
      this.shown = (event.currentTarget as HTMLElement).dataset["tab"]!;
    },

    step(event: KeyboardEvent) {
      const next = tabAfter(this.$root, this.shown, event.key);
      next?.click();
      next?.focus();
    },

    is(name: string): boolean {
      return this.shown === name;
    },

    tabIndex(name: string): number {
      return this.shown === name ? 0 : -1;
    },
  });

start({ boards, details, vocabulary, references, task, tabs });
