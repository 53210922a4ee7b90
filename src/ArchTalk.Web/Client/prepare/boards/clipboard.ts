import { cellsOf } from "../../board/items";
import { part } from "../../shared/alpine";
import { call } from "../../shared/api";
import { api, maker } from "../page";
import type { Board, BoardsPage } from "./whole";

const longestTitle = 60;

/** What is pasted: pictures and files become boards; writing and cells come onto a new board of their own. */
export const clipboard = () =>
  part<BoardsPage>()({
    async paste(event: ClipboardEvent): Promise<void> {
      const files = [...(event.clipboardData?.files ?? [])];
      const text = event.clipboardData?.getData("text/plain").trim() ?? "";
      if (event.target instanceof HTMLElement && event.target.closest("input, textarea")) {
        return;
      }

      if (files.length > 0) {
        this.addFiles(files);
      } else if (text) {
        await this.change(async () => {
          const cells = cellsOf(text);
          const title = (cells ? cells[0]!.join(" ") : text.split("\n")[0]!).slice(0, longestTitle);
          const board = await call<Board>("POST", `${api}/boards`, { title });
          const item = cells ? maker.table(120, 100, cells) : maker.text(120, 100, text, 1300);
          await call("PUT", `${api}/boards/${board.id}/items`, { content: [item], version: 0 });
        });
      }
    },
  });
