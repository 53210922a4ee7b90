import { part } from "../../shared/alpine";
import { call } from "../../shared/api";
import { api } from "../page";
import type { ListedBoard, BoardsPage } from "./whole";

/** Slides that their author left out of the show, offered as boards. */
export const offer = () =>
  part<BoardsPage>()({
    offered: [] as ListedBoard[],
    ticked: [] as string[],

    get hasOffered(): boolean {
      return this.offered.length > 0;
    },

    get offerLine(): string {
      return this.offered.length === 1 ? "1 slide was hidden in the show" : `${this.offered.length} slides were hidden in the show`;
    },

    tick(event: Event): void {
      const box = event.currentTarget as HTMLInputElement;
      this.ticked = box.checked ? [...this.ticked, box.value] : this.ticked.filter((id) => id !== box.value);
    },

    get offerWord(): string {
      if (this.ticked.length === 0) {
        return "Leave them all out";
      }

      return this.ticked.length === 1 ? "Add the ticked one" : `Add the ${this.ticked.length} ticked ones`;
    },

    async answerOffer(): Promise<void> {
      await this.change(() => call("POST", `${api}/boards/offer`, { ticked: this.ticked }));
      this.ticked = [];
    },
  });
