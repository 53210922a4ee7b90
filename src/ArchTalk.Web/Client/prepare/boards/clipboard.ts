import { part } from "../../shared/alpine";
import { call } from "../../shared/api";
import { type Pasted, pastedFrom, pastedWord } from "../../shared/pasted";
import { api, maker } from "../page";
import type { ListedBoard, BoardsPage } from "./whole";

const longestTitle = 60;

/** What is pasted: pictures and files become boards; writing and cells come onto a new board of their own. */
export const clipboard = () =>
  part<BoardsPage>()({
    /** What was pasted last, in all the ways it can be taken. */
    pasted: [] as Pasted[],
    pastedAs: 0,
    /** The board it came onto. */
    pastedBoard: "",

    async paste(event: ClipboardEvent): Promise<void> {
      if (event.target instanceof HTMLElement && event.target.closest("input, textarea")) {
        return;
      }

      this.pasted = pastedFrom(event.clipboardData);
      this.pastedBoard = "";
      if (this.pasted.length > 0) {
        await this.takePasted(0);
      } else {
        this.addFiles([...(event.clipboardData?.files ?? [])]);
      }
    },

    async takePasted(index: number): Promise<void> {
      const [pasted, before] = [this.pasted[index]!, this.pastedBoard];
      this.pastedAs = index;
      this.pastedBoard = "";
      if (before) {
        await this.change(() => call("DELETE", `${api}/boards/${before}`));
      }

      if (pasted.kind === "picture") {
        this.addFiles([pasted.file]);
        return;
      }

      await this.change(async () => {
        const title = pasted.kind === "table" ? pasted.rows[0]!.join(" ") : pasted.text.paragraphs[0]!.map((r) => r.text).join("");
        const board = await call<ListedBoard>("POST", `${api}/boards`, { title: title.slice(0, longestTitle) });
        const item = pasted.kind === "table" ? maker.table(120, 100, pasted.rows) : { ...maker.pasted(pasted.text, 1300), x: 120, y: 100 };
        const kept = await call<{ content: { y: number; height: number }[] }>("PUT", `${api}/boards/${board.id}/items`, {
          content: [item],
          version: 0,
        });
        this.pastedBoard = board.id;

        // Writing that is longer than the board makes it longer.
        if (kept.content.some((i) => i.y + i.height > board.height)) {
          await call("PUT", `${api}/boards/${board.id}/height`, {});
        }
      });
    },

    get hasOtherWays(): boolean {
      return this.pasted.length > 1;
    },

    get pastedLine(): string {
      const pasted = this.pasted[this.pastedAs];
      return pasted ? `Pasted as ${pastedWord(pasted)}, on a board of its own.` : "";
    },

    get otherWays(): { index: number; word: string }[] {
      return this.pasted.map((p, index) => ({ index, word: `As ${pastedWord(p)}` })).filter((w) => w.index !== this.pastedAs);
    },

    takeOther(way: { index: number }): void {
      void this.takePasted(way.index);
    },

    closePasted(): void {
      this.pasted = [];
    },
  });
