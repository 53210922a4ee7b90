import { duplicated, moved } from "../items";
import { api, live, plainCopy, restMs } from "../page";
import { part } from "../../shared/alpine";
import { call } from "../../shared/api";
import type { BoardPage } from "./whole";

/** What is done with the selection: by buttons and by keys. */
export const actions = () =>
  part<BoardPage>()({
    menu: "",
    ticked: [] as string[],

    remove(): void {
      const word = this.selectionName;
      this.commit(this.items.filter((i) => !this.selected.includes(i.id)));
      this.select([]);
      this.said = `${word} removed. Undo brings it back.`;
      this.$nextTick(() => live.surface.svg.focus());
    },

    duplicate(): void {
      const copies = duplicated(plainCopy(this.items.filter((i) => this.selected.includes(i.id))));
      this.commit([...this.items, ...copies]);
      this.select(copies.map((c) => c.id));
    },

    toggleLock(): void {
      const isLocked = !this.isLocked;
      this.commit(this.items.map((i) => (this.selected.includes(i.id) ? { ...i, isLocked } : i)));
    },

    toFront(): void {
      this.commit([...this.items.filter((i) => !this.selected.includes(i.id)), ...this.items.filter((i) => this.selected.includes(i.id))]);
    },

    toBack(): void {
      this.commit([...this.items.filter((i) => this.selected.includes(i.id)), ...this.items.filter((i) => !this.selected.includes(i.id))]);
    },

    nudge(dx: number, dy: number): void {
      const isWhole = this.selected.length > 1;
      this.commit(this.items.map((i) => (this.selected.includes(i.id) && !i.isLocked ? moved(i, dx, dy, isWhole) : i)), restMs);
      this.sayPlace();
    },

    /** Tells those who hear the page where the selected item is now. */
    sayPlace(): void {
      const one = this.one;
      if (one) {
        this.said = `${this.selectionName} at ${Math.round(one.x)}, ${Math.round(one.y)}`;
      }
    },

    keys(event: KeyboardEvent): void {
      const step = event.shiftKey ? 20 : 2;
      const command = event.ctrlKey || event.metaKey;
      const act: (() => void) | undefined = command
        ? {
            z: () => (event.shiftKey ? this.redo() : this.undo()), y: () => this.redo(),
            d: () => this.duplicate(), a: () => this.select(this.items.map((i) => i.id)),
          }[event.key.toLowerCase()]
        : {
            ArrowLeft: () => this.nudge(-step, 0), ArrowRight: () => this.nudge(step, 0),
            ArrowUp: () => this.nudge(0, -step), ArrowDown: () => this.nudge(0, step),
            Delete: () => this.remove(), Backspace: () => this.remove(), Escape: () => this.escape(), Enter: () => this.enter(),
          }[event.key];
      const needsSelection = !command && !["Escape", "Enter"].includes(event.key);
      if (act && (!needsSelection || this.hasSelection)) {
        event.preventDefault();
        act();
      }
    },

    enter(): void {
      if (this.placing) {
        this.placeLabel(800, Math.min(450, this.board.height / 2));
      } else if (this.one) {
        this.open(this.one.id);
      }
    },

    escape(): void {
      this.askForPlace(false);
      this.menu = "";
      this.endWriting();
      this.select([]);
    },

    writingKeys(event: KeyboardEvent): void {
      event.stopPropagation();
      if (event.key === "Escape") {
        const id = this.editing!;
        this.endWriting();
        live.surface.focus(id);
      } else if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "b") {
        event.preventDefault();
        live.writing.apply({ isBold: true }, { isBold: false });
      }
    },

    toggleMenu(event: Event): void {
      const name = (event.currentTarget as HTMLElement).dataset["menu"]!;
      this.menu = this.menu === name ? "" : name;
    },

    isMenu(name: string): boolean {
      return this.menu === name;
    },

    tick(event: Event): void {
      const box = event.currentTarget as HTMLInputElement;
      this.ticked = box.checked ? [...this.ticked, box.value] : this.ticked.filter((b) => b !== box.value);
    },

    get noneTicked(): boolean {
      return this.ticked.length === 0;
    },

    async copyTo(): Promise<void> {
      await live.store.settle();
      await this.attempt(async () => {
        await call("POST", `${api}/items/copy`, { ids: this.selected, to: this.ticked });
        this.status = `Copied to ${this.ticked.length === 1 ? "1 board" : `${this.ticked.length} boards`}`;
        this.menu = "";
      });
    },
  });
