import { part } from "../../shared/alpine";
import { call } from "../../shared/api";
import { api } from "../page";
import type { ListedBoard, BoardsPage } from "./whole";

/** The order of the boards, by dragging or by buttons. */
export const order = () =>
  part<BoardsPage>()({
    dragged: null as string | null,

    async earlier(board: ListedBoard): Promise<void> {
      await this.moveTo(board.id, this.list.indexOf(board) - 1);
    },

    async later(board: ListedBoard): Promise<void> {
      await this.moveTo(board.id, this.list.indexOf(board) + 1);
    },

    isFirst(board: ListedBoard): boolean {
      return this.list[0] === board;
    },

    isLast(board: ListedBoard): boolean {
      return this.list.at(-1) === board;
    },

    lift(board: ListedBoard): void {
      this.dragged = board.id;
    },

    // The order changes under the hand, and is kept when it is let go.
    hover(board: ListedBoard): void {
      const from = this.list.findIndex((b) => b.id === this.dragged);
      const to = this.list.indexOf(board);
      if (from >= 0 && from !== to) {
        this.list.splice(to, 0, ...this.list.splice(from, 1));
      }
    },

    async letGo(): Promise<void> {
      if (this.dragged) {
        this.dragged = null;
        await this.saveOrder();
      }
    },

    isDragged(board: ListedBoard): boolean {
      return this.dragged === board.id;
    },

    async moveTo(id: string, to: number): Promise<void> {
      const from = this.list.findIndex((b) => b.id === id);
      if (to >= 0 && to < this.list.length) {
        this.list.splice(to, 0, ...this.list.splice(from, 1));
        this.status = `${this.list[to]!.title} is now board ${to + 1} of ${this.list.length}.`;
        await this.saveOrder();
        this.$nextTick(() => document.getElementById(`move-${id}`)?.focus());
      }
    },

    async saveOrder(): Promise<void> {
      await this.change(() => call("PUT", `${api}/boards/order`, this.list.map((b) => b.id)));
    },

    moveId(board: ListedBoard): string {
      return `move-${board.id}`;
    },
  });
