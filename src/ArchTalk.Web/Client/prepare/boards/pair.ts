import { part } from "../../shared/alpine";
import { call } from "../../shared/api";
import { api } from "../page";
import type { ListedBoard, BoardsPage } from "./whole";

/** Two boards put beside each other on a new one. */
export const pair = () =>
  part<BoardsPage>()({
    compared: null as string | null,

    compareWord(board: ListedBoard): string {
      if (this.compared === board.id) {
        return "Not beside another after all";
      }

      return this.compared ? "Put beside the first one chosen" : "Put beside another board";
    },

    isCompared(board: ListedBoard): boolean {
      return this.compared === board.id;
    },

    async compare(board: ListedBoard): Promise<void> {
      const first = this.compared;
      this.compared = first === board.id ? null : first ? null : board.id;
      if (first && first !== board.id) {
        await this.change(() => call("POST", `${api}/boards/side-by-side`, { left: first, right: board.id }));
      }
    },

    stopComparing(): void {
      this.compared = null;
    },
  });
