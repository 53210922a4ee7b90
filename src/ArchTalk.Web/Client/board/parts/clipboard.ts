import { cellsOf } from "../items";
import { maker, page } from "../page";
import { part } from "../../shared/alpine";
import { sendFile } from "../../shared/api";
import type { BoardPage } from "./whole";

/** What is pasted onto the board. */
export const clipboard = () =>
  part<BoardPage>()({
    pasted: null as File | null,

    paste(event: ClipboardEvent): void {
      if (event.target instanceof HTMLElement && event.target.closest("input, textarea, [contenteditable=true]")) {
        return;
      }

      const file = [...(event.clipboardData?.files ?? [])].find((f) => f.type.startsWith("image/"));
      const text = event.clipboardData?.getData("text/plain") ?? "";
      if (file) {
        this.pasted = file;
      } else if (text.trim()) {
        event.preventDefault();
        const cells = cellsOf(text);
        this.addFree(cells ? maker.table(0, 0, cells) : maker.text(0, 0, text.trim()));
      }
    },

    async usePasted(): Promise<void> {
      const file = this.pasted;
      this.pasted = null;
      if (file) {
        await this.replacePicture(file);
      }
    },

    async addPasted(): Promise<void> {
      const file = this.pasted;
      this.pasted = null;
      if (file) {
        await this.attempt(async () => {
          await sendFile("POST", `/api/lessons/${page.lesson}/files`, file);
          this.status = "Added as a new board";
        });
      }
    },

    dropPasted(): void {
      this.pasted = null;
    },
  });
