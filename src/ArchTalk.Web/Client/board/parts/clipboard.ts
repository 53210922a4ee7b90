import type { Item, PictureItem } from "../items";
import { api, live, maker, page } from "../page";
import { part } from "../../shared/alpine";
import { sendFile } from "../../shared/api";
import { type Pasted, pastedFrom, pastedWord } from "../../shared/pasted";
import { pickedFiles } from "../../shared/picked";
import type { BoardPage } from "./whole";

const fields = "input, textarea, [contenteditable=true]";

/** What is pasted, dropped or picked onto the board. */
export const clipboard = () =>
  part<BoardPage>()({
    /** What was pasted last, in all the ways it can be taken. */
    pasted: [] as Pasted[],
    pastedAs: 0,
    /** The item it became. */
    pastedId: "",
    isDropping: false,

    paste(event: ClipboardEvent): void {
      const found = event.target instanceof HTMLElement && event.target.closest(fields) ? [] : pastedFrom(event.clipboardData);
      if (found.length > 0) {
        event.preventDefault();
        this.pasted = found;
        this.pastedId = "";
        void this.takePasted(0);
      }
    },

    async takePasted(index: number): Promise<void> {
      const pasted = this.pasted[index]!;
      this.pastedAs = index;
      const item = await this.itemOf(pasted);
      if (item) {
        this.items = this.items.filter((i) => i.id !== this.pastedId);
        this.addFree(item);
        this.pastedId = item.id;
        this.said = `Pasted as ${pastedWord(pasted)}`;
      }
    },

    async itemOf(pasted: Pasted): Promise<Item | null> {
      switch (pasted.kind) {
        case "table":
          return maker.table(0, 0, pasted.rows);
        case "structured":
        case "plain":
          return maker.pasted(pasted.text);
        case "picture":
          return await this.pictureOf(pasted.file);
      }
    },

    async pictureOf(file: File): Promise<PictureItem | null> {
      let item: PictureItem | null = null;
      await this.work(async () => {
        item = await sendFile<PictureItem>("POST", `${api}/pictures`, file);
      });
      return item;
    },

    get hasPasted(): boolean {
      return this.pasted.length > 0;
    },

    get pastedLine(): string {
      const pasted = this.pasted[this.pastedAs];
      return pasted ? `Pasted as ${pastedWord(pasted)}.` : "";
    },

    /** The other ways in which it can be taken. */
    get otherWays(): { index: number; word: string }[] {
      return this.pasted.map((p, index) => ({ index, word: `As ${pastedWord(p)}` })).filter((w) => w.index !== this.pastedAs);
    },

    get pastedPicture(): File | null {
      const pasted = this.pasted.find((p) => p.kind === "picture");
      return pasted?.file ?? null;
    },

    get hasPastedPicture(): boolean {
      return this.pastedPicture !== null;
    },

    takeOther(way: { index: number }): void {
      void this.takePasted(way.index);
    },

    async usePasted(): Promise<void> {
      const file = this.pastedPicture!;
      this.dropItem();
      await this.replacePicture(file);
    },

    async addPasted(): Promise<void> {
      const file = this.pastedPicture!;
      this.dropItem();
      await this.attempt(async () => {
        await sendFile("POST", `/api/lessons/${page.lesson}/files`, file);
        this.status = "Added as a new board";
      });
    },

    /** The picture goes somewhere else than onto the board. */
    dropItem(): void {
      this.commit(this.items.filter((i) => i.id !== this.pastedId));
      this.closePasted();
    },

    closePasted(): void {
      this.pasted = [];
      this.pastedId = "";
    },

    // --- Dropped and picked pictures ---

    over(): void {
      this.isDropping = true;
    },

    out(): void {
      this.isDropping = false;
    },

    async drop(event: DragEvent): Promise<void> {
      this.isDropping = false;
      await this.addPictures([...(event.dataTransfer?.files ?? [])], live.surface.at(event));
    },

    async pickPictures(event: Event): Promise<void> {
      await this.addPictures(pickedFiles(event), null);
    },

    /** Puts pictures on the board: where they were dropped, or where there is room. */
    async addPictures(files: File[], at: { x: number; y: number } | null): Promise<void> {
      for (const file of files) {
        const item = await this.pictureOf(file);
        if (item && at) {
          this.add({ ...item, x: Math.max(0, Math.min(1600 - item.width, at.x - item.width / 2)), y: Math.max(0, at.y - item.height / 2) });
        } else if (item) {
          this.addFree(item);
        }
      }
    },

    // --- How a picture is shown ---

    turnPicture(event: Event): void {
      const one = this.one;
      if (one?.kind === "picture") {
        const by = Number((event.currentTarget as HTMLElement).dataset["by"]);
        const [width, height] = [one.height, one.width];
        this.commit(
          this.items.map((i) =>
            i.id === one.id
              ? {
                  ...one,
                  turn: (one.turn + by + 4) % 4,
                  width,
                  height,
                  x: one.x + (one.width - width) / 2,
                  y: Math.max(0, one.y + (one.height - height) / 2),
                }
              : i,
          ),
        );
      }
    },

    /** How much is cut off at a side, in percent of the whole picture. */
    cut(side: string): number {
      const one = this.one;
      if (one?.kind !== "picture") {
        return 0;
      }

      const { x, y, width, height } = one.crop;
      return Math.round(100 * ({ left: x, top: y, right: 1 - x - width, bottom: 1 - y - height } as Record<string, number>)[side]!);
    },

    setCut(event: Event): void {
      const one = this.one;
      const input = event.currentTarget as HTMLInputElement;
      if (one?.kind === "picture") {
        const cuts = {
          left: this.cut("left"),
          top: this.cut("top"),
          right: this.cut("right"),
          bottom: this.cut("bottom"),
          [input.dataset["side"]!]: Number(input.value),
        };
        const [width, height] = [Math.max(0.04, 1 - (cuts.left + cuts.right) / 100), Math.max(0.04, 1 - (cuts.top + cuts.bottom) / 100)];

        // What stays keeps its size on the board.
        const across = one.turn % 2 === 1 ? height / one.crop.height : width / one.crop.width;
        const crop = { x: Math.min(cuts.left / 100, 1 - width), y: Math.min(cuts.top / 100, 1 - height), width, height };
        this.commit(this.items.map((i) => (i.id === one.id ? { ...one, crop, width: one.width * across } : i)));
      }
    },
  });
