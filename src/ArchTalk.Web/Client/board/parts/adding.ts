import { freePlace, type Item } from "../items";
import { live, maker } from "../page";
import { part } from "../../shared/alpine";
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
        this.addFree({ ...maker.formula(0, 0), tex, ...typeset(tex) });
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

    /** Adds an item where the board is seen and free. */
    addFree(item: Item): void {
      const top = Math.round(this.$refs["frame"]!.scrollTop / live.surface.scale);
      this.add({ ...item, ...freePlace(item, this.items, top, this.board.height) });
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
