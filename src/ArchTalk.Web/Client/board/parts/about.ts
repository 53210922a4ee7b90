import { api, type Board, live, page } from "../page";
import { part } from "../../shared/alpine";
import { call, sendFile, sendOnLeaving } from "../../shared/api";
import { pickedFiles } from "../../shared/picked";
import type { BoardPage } from "./whole";

/** The board itself: its name, notes, picture and clip. */
export const about = () =>
  part<BoardPage>()({
    board: page.board,

    /** What is typed and not saved yet, by member. */
    typedAbout: {} as Record<string, string>,

    typing(event: Event): void {
      const input = event.currentTarget as HTMLInputElement;
      this.typedAbout[input.dataset["member"]!] = input.value;
    },

    async change(event: Event): Promise<void> {
      const input = event.currentTarget as HTMLInputElement;
      await this.keepAbout(input.dataset["member"]!, input.value);
    },

    async changeClip(event: Event): Promise<void> {
      const input = event.currentTarget as HTMLInputElement;
      const ms = Math.round(Number(input.value.replace(",", ".")) * 1000);
      if (await this.keepAbout(input.dataset["member"]!, ms)) {
        await this.attempt(() => this.reload());
      }
    },

    async keepAbout(member: string, value: string | number): Promise<boolean> {
      this.status = "Saving…";
      const done = await this.attempt(() => call("PATCH", api, { [member]: value }));
      this.status = done ? "Saved" : "";
      if (done && this.typedAbout[member] === value) {
        delete this.typedAbout[member];
      }

      return done;
    },

    /** The page is left in the middle of a field. */
    flushAbout(): void {
      if (Object.keys(this.typedAbout).length > 0) {
        sendOnLeaving("PATCH", api, this.typedAbout);
      }
    },

    get clipStart(): number {
      return (this.board.clip?.startMs ?? 0) / 1000;
    },

    get clipEnd(): number {
      return (this.board.clip?.endMs ?? 0) / 1000;
    },

    // Plays only the part that students will see.
    holdClip(event: Event): void {
      const media = event.currentTarget as HTMLMediaElement;
      if (media.currentTime > this.clipEnd) {
        media.pause();
        media.currentTime = this.clipStart;
      } else if (media.currentTime < this.clipStart - 0.2) {
        media.currentTime = this.clipStart;
      }
    },

    async pickPicture(event: Event): Promise<void> {
      const [file] = pickedFiles(event);
      if (file) {
        await this.replacePicture(file);
      }
    },

    async replacePicture(file: File): Promise<void> {
      await this.work(async () => {
        await sendFile("PUT", `${api}/picture`, file);
        await this.reload();
        this.status = "Picture replaced; everything on it was kept";
      });
    },

    async reload(): Promise<void> {
      this.board = await call<Board>("GET", api);
      live.surface.setBoard(this.board.height, this.board.large ?? this.board.medium);
      this.words = [];
      if (this.showsWords) {
        await this.loadWords();
      }
    },
  });
