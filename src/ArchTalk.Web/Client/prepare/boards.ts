import { cellsOf, newTable, newText } from "../board/items";
import { api, type Link, linksFound, page } from "./page";
import { component } from "../shared/alpine";
import { antiforgeryToken, call, messageOf } from "../shared/api";
import { pickedFiles } from "../shared/picked";

interface Board {
  id: string;
  title: string;
  kind: string;
  height: number;
  small: string | null;
  source: string;
  items: string | null;
}

interface Job {
  id: string;
  state: string;
  title: string;
  done: number;
  total: number;
  message: string;
  secondsLeft: number | null;
  pictures: string[];
}

interface Upload {
  name: string;
  share: number;
  stopped: boolean;
  request: XMLHttpRequest;
}

const lookAgainMs = 700;

export const boards = () =>
  component({
    list: [] as Board[],
    jobs: [] as Job[],
    uploads: [] as Upload[],
    waiting: [] as File[],
    ready: false,
    dropping: false,
    fault: "",
    status: "",
    removed: null as Board | null,
    dragged: null as string | null,
    offered: [] as Board[],
    ticked: [] as string[],
    compared: null as string | null,

    async init() {
      await this.refresh();
      this.ready = true;
      window.addEventListener("paste", (e) => void this.paste(e));
    },

    async refresh() {
      try {
        const view = await call<{ boards: Board[]; offered: Board[]; links: Link[]; jobs: Job[] }>("GET", `${api}/boards`);
        this.list = view.boards;
        this.offered = view.offered;
        this.jobs = view.jobs.filter((j) => j.state !== "cancelled" && (j.state !== "done" || j.message !== ""));
        window.dispatchEvent(new CustomEvent<Link[]>(linksFound, { detail: view.links }));
        if (this.jobs.some((j) => j.state === "waiting" || j.state === "running")) {
          setTimeout(() => void this.refresh(), lookAgainMs);
        }
      } catch (error) {
        this.fault = messageOf(error);
      }
    },

    get isEmpty(): boolean {
      return this.ready && this.list.length === 0 && this.jobs.length === 0 && this.uploads.length === 0;
    },

    get isWorking(): boolean {
      return this.jobs.length + this.uploads.length + this.waiting.length > 0;
    },

    leave(event: Event) {
      (event.target as HTMLElement).blur();
    },

    get count(): string {
      return this.list.length === 1 ? "1 board" : `${this.list.length} boards`;
    },

    number(board: Board): number {
      return this.list.indexOf(board) + 1;
    },

    shape(board: Board): string {
      return board.kind === "empty" ? "Empty, grows as you write" : board.kind === "clip" ? "Film or sound" : board.height > 950 ? "Tall, slides" : "";
    },

    pick(event: Event) {
      this.addFiles(pickedFiles(event));
    },

    over() {
      this.dropping = true;
    },

    out() {
      this.dropping = false;
    },

    drop(event: DragEvent) {
      this.dropping = false;
      this.addFiles([...(event.dataTransfer?.files ?? [])]);
    },

    addFiles(files: File[]) {
      this.waiting.push(...files);
      this.sendNext();
    },

    // One at a time, so that the boards come in the order of the files.
    sendNext() {
      const file = this.uploads.length === 0 ? this.waiting.shift() : undefined;
      if (!file) {
        return;
      }

      if (file.size > page.limitMb * 1024 * 1024) {
        this.fault = `“${file.name}” is larger than ${page.limitMb} MB, so it was not sent. Save it in parts, or with smaller pictures.`;
        this.sendNext();
        return;
      }

      const request = new XMLHttpRequest();
      this.uploads.push({ name: file.name, share: 0, stopped: false, request });
      const upload = this.uploads[0]!;
      request.upload.onprogress = (e) => (upload.share = e.total > 0 ? Math.round((100 * e.loaded) / e.total) : 0);
      request.onloadend = () => {
        this.uploads = [];
        if (request.status !== 202 && request.status !== 0) {
          const answer = request.responseText.startsWith("{") ? (JSON.parse(request.responseText) as { message?: string }) : {};
          this.fault = answer.message ?? `“${file.name}” could not be sent. Nothing was changed; try again.`;
        } else if (request.status === 0 && !upload.stopped) {
          this.fault = `“${file.name}” could not be sent: the server can't be reached. Try again shortly.`;
        }

        void this.refresh();
        this.sendNext();
      };
      request.open("POST", `${api}/files`);
      request.setRequestHeader("X-Antiforgery", antiforgeryToken());
      request.setRequestHeader("X-File-Name", encodeURIComponent(file.name));
      request.send(file);
    },

    stopUpload(upload: Upload) {
      upload.stopped = true;
      upload.request.abort();
    },

    // Pictures and files become boards; writing and cells come onto a new board of their own.
    async paste(event: ClipboardEvent) {
      const files = [...(event.clipboardData?.files ?? [])];
      const text = event.clipboardData?.getData("text/plain").trim() ?? "";
      if (event.target instanceof HTMLElement && event.target.closest("input, textarea")) {
        return;
      }

      if (files.length > 0) {
        this.addFiles(files);
      } else if (text) {
        await this.attempt(async () => {
          const cells = cellsOf(text);
          const title = (cells ? cells[0]!.join(" ") : text.split("\n")[0]!).slice(0, 60);
          const board = await call<Board>("POST", `${api}/boards`, { title });
          const item = cells ? newTable(120, 100, cells) : newText(120, 100, text, 1300);
          await call("PUT", `${api}/boards/${board.id}/items`, { content: [item], version: 0 });
        });
      }
    },

    isActive(job: Job): boolean {
      return job.state === "waiting" || job.state === "running";
    },

    progress(job: Job): string {
      if (job.state === "waiting") {
        return "waits";
      }

      const left = job.secondsLeft === null ? "" : `, about ${job.secondsLeft} s left`;
      return job.total > 0 ? `page ${job.done} of ${job.total}${left}` : "reading";
    },

    async cancel(job: Job) {
      await this.attempt(() => call("POST", `${api}/jobs/${job.id}/cancel`));
    },

    async dismiss(job: Job) {
      await this.attempt(() => call("DELETE", `${api}/jobs/${job.id}`));
    },

    hasPictures(job: Job): boolean {
      return job.pictures.length > 0;
    },

    // --- Hidden slides ---

    get hasOffered(): boolean {
      return this.offered.length > 0;
    },

    tick(event: Event) {
      const box = event.currentTarget as HTMLInputElement;
      this.ticked = box.checked ? [...this.ticked, box.value] : this.ticked.filter((id) => id !== box.value);
    },

    get offerWord(): string {
      return this.ticked.length === 0 ? "Leave them all out" : this.ticked.length === 1 ? "Add the ticked one" : `Add the ${this.ticked.length} ticked ones`;
    },

    async answerOffer() {
      await this.attempt(() => call("POST", `${api}/boards/offer`, { ticked: this.ticked }));
      this.ticked = [];
    },

    // --- Two beside each other ---

    compareWord(board: Board): string {
      return this.compared === board.id ? "Not beside another after all" : this.compared ? "Put beside the first one chosen" : "Put beside another board";
    },

    isCompared(board: Board): boolean {
      return this.compared === board.id;
    },

    async compare(board: Board) {
      const first = this.compared;
      this.compared = first === board.id ? null : first ? null : board.id;
      if (first && first !== board.id) {
        await this.attempt(() => call("POST", `${api}/boards/side-by-side`, { left: first, right: board.id }));
      }
    },

    stopComparing() {
      this.compared = null;
    },

    page(board: Board): string {
      return `/lessons/${page.lesson}/prepare/${board.id}`;
    },

    dismissFault() {
      this.fault = "";
    },

    async addEmpty() {
      await this.attempt(() => call("POST", `${api}/boards`, { title: "Empty board" }));
    },

    async rename(board: Board, event: Event) {
      const title = (event.target as HTMLInputElement).value.trim();
      if (title && title !== board.title) {
        board.title = title;
        await this.attempt(() => call("PATCH", `${api}/boards/${board.id}`, { title }));
      }
    },

    async remove(board: Board) {
      await this.attempt(() => call("DELETE", `${api}/boards/${board.id}`));
      this.removed = board;
    },

    async restore() {
      const board = this.removed;
      this.removed = null;
      if (board) {
        await this.attempt(() => call("POST", `${api}/boards/${board.id}/restore`));
      }
    },

    async earlier(board: Board) {
      await this.moveTo(board.id, this.list.indexOf(board) - 1);
    },

    async later(board: Board) {
      await this.moveTo(board.id, this.list.indexOf(board) + 1);
    },

    isFirst(board: Board): boolean {
      return this.list[0] === board;
    },

    isLast(board: Board): boolean {
      return this.list.at(-1) === board;
    },

    lift(board: Board) {
      this.dragged = board.id;
    },

    // The order changes under the hand, and is kept when it is let go.
    hover(board: Board) {
      const from = this.list.findIndex((b) => b.id === this.dragged);
      const to = this.list.indexOf(board);
      if (from >= 0 && from !== to) {
        this.list.splice(to, 0, ...this.list.splice(from, 1));
      }
    },

    async letGo() {
      if (this.dragged) {
        this.dragged = null;
        await this.saveOrder();
      }
    },

    isDragged(board: Board): boolean {
      return this.dragged === board.id;
    },

    async moveTo(id: string, to: number) {
      const from = this.list.findIndex((b) => b.id === id);
      if (to >= 0 && to < this.list.length) {
        this.list.splice(to, 0, ...this.list.splice(from, 1));
        this.status = `${this.list[to]!.title} is now board ${to + 1} of ${this.list.length}.`;
        await this.saveOrder();
        this.$nextTick(() => document.getElementById(`move-${id}`)?.focus());
      }
    },

    async saveOrder() {
      await this.attempt(() => call("PUT", `${api}/boards/order`, this.list.map((b) => b.id)));
    },

    moveId(board: Board): string {
      return `move-${board.id}`;
    },

    async attempt(work: () => Promise<unknown>) {
      try {
        this.fault = "";
        await work();
      } catch (error) {
        this.fault = messageOf(error);
      }

      await this.refresh();
    },
  });
