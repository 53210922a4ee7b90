import { api, type EditedBoard, live, page } from "../page";
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

    /** What is typed as a start or end and is none yet, by member. */
    clipFault: "",

    async changeClip(event: Event): Promise<void> {
      const input = event.currentTarget as HTMLInputElement;
      const ms = msOf(input.value);
      this.clipFault = ms === null ? `“${input.value}” is no time. Type seconds such as 12.5, or minutes and seconds such as 1:05.` : "";
      if (ms !== null) {
        await this.keepClip({ [input.dataset["member"]!]: ms });
      }
    },

    /** The clip begins, or ends, where its player stands. */
    async markClip(event: Event): Promise<void> {
      const media = this.$root.querySelector<HTMLMediaElement>("#clip")!;
      await this.keepClip({ [(event.currentTarget as HTMLElement).dataset["member"]!]: Math.round(media.currentTime * 1000) });
    },

    async keepClip(change: Partial<Record<string, number>>): Promise<void> {
      this.status = "Saving…";
      const done = await this.attempt(() => call("PATCH", api, change));
      this.status = done ? "Saved" : "";
      this.clipFault = "";
      if (done) {
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

    get clipStart(): string {
      return timeOf(this.board.clip?.startMs ?? 0);
    },

    get clipEnd(): string {
      return timeOf(this.board.clip?.endMs ?? 0);
    },

    clipAt: 0,

    /** Stops where students will be stopped; the teacher can go on, or look for another place, before and after. */
    holdClip(event: Event): void {
      const media = event.currentTarget as HTMLMediaElement;
      const end = (this.board.clip?.endMs ?? 0) / 1000;
      if (!media.paused && this.clipAt < end && media.currentTime >= end && media.currentTime - this.clipAt < 2) {
        media.pause();
      }

      this.clipAt = media.currentTime;
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
      this.board = await call<EditedBoard>("GET", api);
      live.surface.setBoard(this.board.height, this.board.large ?? this.board.medium);
      this.words = [];
      if (this.showsWords) {
        await this.loadWords();
      }
    },
  });

// Seconds with or without decimals, or minutes and seconds.
function msOf(text: string): number | null {
  const parts = /^\s*(?:(\d+):)?(\d+(?:[.,]\d+)?)\s*$/.exec(text);
  return parts ? Math.round((Number(parts[1] ?? 0) * 60 + Number(parts[2]!.replace(",", "."))) * 1000) : null;
}

function timeOf(ms: number): string {
  const seconds = Math.round(ms / 10) / 100;
  return seconds < 60 ? String(seconds) : `${Math.floor(seconds / 60)}:${String(Math.round((seconds % 60) * 100) / 100).padStart(2, "0")}`;
}
