import { part } from "../../shared/alpine";
import { clock, day } from "../../shared/format";
import type { Leftover } from "../messages";
import { goesOn } from "../leftovers";
import { session } from "../page";
import type { RecordPage } from "./whole";

/** What this browser still keeps and the server doesn't take by itself: shown, and nothing happens to it but what is pressed. */
export const leftovers = () =>
  part<RecordPage>()({
    /** The one whose discarding is asked about. */
    discarding: "",

    get hasLeft(): boolean {
      return this.isBetweenTakes && this.view.left.length > 0;
    },

    leftKey(left: Leftover): string {
      return `${left.take}/${left.epoch}`;
    },

    leftLength(left: Leftover): string {
      return clock(left.ms);
    },

    leftDay(left: Leftover): string {
      return day(left.startedAt);
    },

    leftWhy(left: Leftover): string {
      switch (left.why) {
        case "taken":
          return "The take went on in another tab, window or browser before this was sent.";
        case "finished":
          return "The take was finished before this was sent.";
        case "refused":
          return "The server didn't take it in.";
      }
    },

    /** Only where nothing was recorded since can it go back to its place. */
    canSendOn(left: Leftover): boolean {
      return left.why === "taken" && this.takes.some((t) => t.id === left.take && t.isOpen && goesOn(left, t));
    },

    async sendLeftOn(left: Leftover): Promise<void> {
      await session().sendOn(left);
    },

    async makeLeftATake(left: Leftover): Promise<void> {
      await session().makeTake(left);
    },

    saveLeft(left: Leftover): void {
      session().saveAsWav(left);
    },

    askToDiscard(left: Leftover): void {
      this.discarding = this.leftKey(left);
    },

    isDiscarding(left: Leftover): boolean {
      return this.discarding === this.leftKey(left);
    },

    keepLeft(): void {
      this.discarding = "";
    },

    discardLeft(left: Leftover): void {
      session().discard(left);
      this.discarding = "";
    },

    /** Hands a file to the browser's downloads. */
    download(file: ArrayBuffer, left: Leftover): void {
      const link = document.createElement("a");
      link.href = URL.createObjectURL(new Blob([file], { type: "audio/wav" }));
      link.download = `voice ${new Date(left.startedAt).toISOString().slice(0, 16).replace(/[T:]/g, "-")}.wav`;
      link.click();
      setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
    },
  });
