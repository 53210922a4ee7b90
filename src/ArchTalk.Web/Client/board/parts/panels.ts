import { live } from "../page";
import { part } from "../../shared/alpine";
import { tabs } from "../../shared/tabs";
import type { BoardPage } from "./whole";

/** The panels beside the board. */
export const panels = () =>
  tabs<BoardPage>("item", function () {
    live.surface.mark([]);
    this.showsWords = false;
    if (this.tab === "picture") {
      void this.showPicture();
    } else if (this.tab === "seen") {
      void this.showSeen();
    }
  });

/** What takes its time. */
export const working = () =>
  part<BoardPage>()({
    isWorking: false,

    async work(task: () => Promise<unknown>): Promise<void> {
      this.isWorking = true;
      await this.attempt(task);
      this.isWorking = false;
    },
  });
