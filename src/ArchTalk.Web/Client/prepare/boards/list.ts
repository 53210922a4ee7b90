import { part } from "../../shared/alpine";
import { refreshArch } from "../../shared/arch";
import { call, messageOf, sendOnLeaving } from "../../shared/api";
import { Following, isActive, type Job } from "../../shared/jobs";
import { api, type Link, linksFound, page } from "../page";
import type { ListedBoard, BoardsPage } from "./whole";

/** Higher than this, in units, a board is called tall. */
const tall = 950;

/** The boards of the lesson: listed, named, taken out and put back. */
export const list = () =>
  part<BoardsPage>()({
    list: [] as ListedBoard[],
    status: "",
    removed: null as ListedBoard | null,
    /** Names that are being typed and aren't saved yet, by board. */
    typed: {} as Record<string, string>,
    following: null as Following | null,
    /** The board whose controls were asked for by touch. */
    opened: "",

    async init(): Promise<void> {
      this.following = new Following(() => this.look());
      window.addEventListener("paste", (e) => void this.paste(e));
      window.addEventListener("pagehide", () => {
        Object.entries(this.typed).forEach(([id, title]) => sendOnLeaving("PATCH", `${api}/boards/${id}`, { title }));
      });
      await this.loadWith(() => this.refresh());
    },

    async refresh(): Promise<void> {
      const view = await call<{ boards: ListedBoard[]; offered: ListedBoard[]; links: Link[]; jobs: Job[] }>("GET", `${api}/boards`);
      const had = this.list.length > 0;
      this.takeList(view.boards);
      this.offered = view.offered;
      this.jobs = view.jobs.filter((j) => j.state !== "cancelled" && (j.state !== "done" || j.message !== ""));
      window.dispatchEvent(new CustomEvent<Link[]>(linksFound, { detail: view.links }));
      if (had !== this.list.length > 0) {
        void refreshArch();
      }

      if (this.jobs.some(isActive)) {
        this.following?.again();
      }
    },

    // Only what changed is touched, and never a name under the teacher's hands.
    takeList(boards: ListedBoard[]): void {
      const known = new Map(this.list.map((b) => [b.id, b]));
      this.list = boards.map((b) => {
        const same = known.get(b.id);
        return same ? Object.assign(same, b, { title: this.typed[b.id] ?? b.title }) : b;
      });
    },

    // What was said before stays until it is closed; only a look that fails says so.
    async look(): Promise<boolean> {
      try {
        await this.refresh();
      } catch (error) {
        this.fault = messageOf(error);
      }

      return this.jobs.some(isActive);
    },

    /** Does something to the boards and shows what came of it. */
    async change(work: () => Promise<unknown>): Promise<boolean> {
      const done = await this.attempt(work);
      await this.look();
      return done;
    },

    get isEmpty(): boolean {
      return this.loaded && this.list.length === 0 && this.jobs.length === 0 && this.uploads.length === 0;
    },

    get hasBoards(): boolean {
      return this.list.length > 0;
    },

    get count(): string {
      return this.list.length === 1 ? "1 board" : `${this.list.length} boards`;
    },

    number(board: ListedBoard): number {
      return this.list.indexOf(board) + 1;
    },

    shape(board: ListedBoard): string {
      return board.kind === "empty" ? "Grows as you write" : board.kind === "clip" ? "Film or sound" : board.height > tall ? "Tall, slides" : "";
    },

    page(board: ListedBoard): string {
      return `/lessons/${page.lesson}/prepare/${board.id}`;
    },

    toggleControls(board: ListedBoard): void {
      this.opened = this.opened === board.id ? "" : board.id;
    },

    cardLook(board: ListedBoard): Record<string, boolean> {
      return { "is-dragged": this.isDragged(board), "is-open": this.opened === board.id };
    },

    leave(event: Event): void {
      (event.target as HTMLElement).blur();
    },

    async addEmpty(): Promise<void> {
      await this.change(() => call("POST", `${api}/boards`, { title: "Empty board" }));
    },

    typing(board: ListedBoard, event: Event): void {
      this.typed[board.id] = (event.target as HTMLTextAreaElement).value;
    },

    async rename(board: ListedBoard, event: Event): Promise<void> {
      const field = event.target as HTMLTextAreaElement;
      const title = field.value.trim();
      if (title === "") {
        delete this.typed[board.id];
        field.value = board.title;
        return;
      }

      this.typed[board.id] = title;
      const done = await this.attempt(() => call("PATCH", `${api}/boards/${board.id}`, { title }));
      if (done && this.typed[board.id] === title) {
        delete this.typed[board.id];
        board.title = title;
      }
    },

    async remove(board: ListedBoard): Promise<void> {
      if (await this.change(() => call("DELETE", `${api}/boards/${board.id}`))) {
        this.removed = board;
        this.$nextTick(() => document.getElementById("put-back")?.focus());
      }
    },

    async restore(): Promise<void> {
      const board = this.removed;
      this.removed = null;
      if (board && (await this.change(() => call("POST", `${api}/boards/${board.id}/restore`)))) {
        this.$nextTick(() => document.getElementById(`name-${board.id}`)?.focus());
      }
    },

    nameId(board: ListedBoard): string {
      return `name-${board.id}`;
    },
  });
