import { part } from "../shared/alpine";
import { type Clip, page, player } from "./page";
import type { WatchPage } from "./whole";

/** Films and sounds on boards, played by the student beside the lesson. */
export const clip = () =>
  part<WatchPage>()({
    clip: null as Clip | null,
    clipFault: "",

    /** Called when the lesson has moved: whether the board that is shown has something to play. */
    lookForClip(): void {
      const board = player()?.shownBoard;
      this.clip = page.clips.find((c) => c.id === board) ?? null;
    },

    get clipWord(): string {
      return this.clip ? (this.clip.hasPicture ? "Play the film" : "Play the sound") : "";
    },

    get hasClip(): boolean {
      return this.clip !== null;
    },

    get clipTitle(): string {
      return this.clip?.title ?? "";
    },

    // The lesson waits meanwhile.
    openClip(): void {
      const { startMs, files } = this.clip!;
      (this.$refs["voice"] as HTMLAudioElement).pause();
      const media = this.$refs["media"] as HTMLVideoElement;
      this.clipFault = "";
      media.replaceChildren(...files.map((file) => Object.assign(document.createElement("source"), { src: `${page.files}/${file}` })));
      media.load();
      media.currentTime = startMs / 1000;
      (this.$refs["clip"] as unknown as HTMLDialogElement).showModal();
      media.play().catch(() => undefined);
    },

    /** Only the part that the teacher chose is played. */
    holdClip(): void {
      const media = this.$refs["media"] as HTMLVideoElement;
      const { startMs, endMs } = this.clip!;
      if (media.currentTime * 1000 >= endMs) {
        media.pause();
        media.currentTime = startMs / 1000;
      } else if (media.currentTime * 1000 < startMs - 50) {
        media.currentTime = startMs / 1000;
      }
    },

    clipFailed(): void {
      this.clipFault = "It could not be loaded. Check your connection, close this and open it again.";
    },

    closeClip(): void {
      (this.$refs["media"] as HTMLVideoElement).pause();
      (this.$refs["clip"] as unknown as HTMLDialogElement).close();
    },
  });
