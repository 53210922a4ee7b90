import { fitting, freePlace, type Item } from "../items";
import { api, live, maker, page } from "../page";
import { part } from "../../shared/alpine";
import { call } from "../../shared/api";
import type { BoardPage } from "./whole";

/** Putting new items on the board. */
export const adding = () =>
  part<BoardPage>()({
    placing: false,

    addText(): void {
      this.addFree(maker.text(0, 0, ""));
      this.open(this.selected[0]!);
    },

    async addFormula(): Promise<void> {
      await this.work(async () => {
        const tex = "F = m a";
        const { typeset } = await import("../formula");
        this.addFree(maker.formula(tex, typeset(tex), page.sizes["reading"]!));
      });
    },

    addTable(): void {
      this.addFree(maker.table(0, 0, [["", ""], ["", ""], ["", ""]]));
    },

    addCover(): void {
      this.addFree(maker.cover(0, 0));
    },

    addBlank(): void {
      this.addFree(maker.blank(0, 0));
    },

    addFigure(event: Event): void {
      this.menu = "";
      this.addFree(maker.figure(0, 0, (event.currentTarget as HTMLElement).dataset["figure"]!));
    },

    add(item: Item): void {
      this.commit([...this.items, item]);
      this.select([item.id]);
      this.tab = "item";
    },

    /** Adds an item where the board is seen and free; where nothing is free, the board is made longer for it. */
    addFree(item: Item): void {
      const top = Math.round(live.frame.scrollTop / live.surface.scale);
      const fits = fitting(item);
      const placed = { ...fits, ...freePlace(fits, this.items, top, this.board.height) };
      this.add(placed);
      if (placed.y + placed.height > this.board.height) {
        void this.setHeight(Math.ceil(placed.y + placed.height) + page.heights.roomBelow);
        this.$nextTick(() => live.frame.scrollTo({ top: placed.y * live.surface.scale - 80 }));
      }
    },

    lengthen(): void {
      void this.setHeight(this.board.height + page.heights.growBy);
    },

    /** As long as what is on it. */
    async shorten(): Promise<void> {
      await live.store.settle();
      await this.setHeight(null);
    },

    async setHeight(height: number | null): Promise<void> {
      await this.attempt(async () => {
        const now = await call<{ height: number }>("PUT", `${api}/height`, { height });
        this.board = { ...this.board, height: now.height };
        live.surface.setBoard(now.height, this.board.large ?? this.board.medium);
      });
    },

    startLabel(): void {
      this.askForPlace(!this.placing);
    },

    placeLabel(x: number, y: number): void {
      this.askForPlace(false);
      this.add(maker.label(Math.round(x), Math.round(y), this.board.height));
      this.$nextTick(() => this.$root.querySelector<HTMLInputElement>("#label-text")?.select());
    },

    askForPlace(isAsked: boolean): void {
      this.placing = live.surface.isPlacing = isAsked;
    },
  });
