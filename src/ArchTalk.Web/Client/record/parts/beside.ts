import { part } from "../../shared/alpine";
import { keepChoice, keptChoice } from "../../shared/kept";
import type { RecordPage } from "./whole";

/** What stands beside the board: put away and brought back, on either side. */
export const beside = () =>
  part<RecordPage>()({
    showsSide: keptChoice("record-side", true),
    leftHanded: keptChoice("left-handed", false),
    /** The speaking notes in large letters. */
    largeNotes: keptChoice("large-notes", false),

    toggleSide(): void {
      this.showsSide = !this.showsSide;
      keepChoice("record-side", this.showsSide);
    },

    toggleLargeNotes(): void {
      this.largeNotes = !this.largeNotes;
      keepChoice("large-notes", this.largeNotes);
    },

    get sideWord(): string {
      return this.showsSide ? "Put notes away" : "Notes and takes";
    },

    toggleHand(): void {
      this.leftHanded = !this.leftHanded;
      keepChoice("left-handed", this.leftHanded);
    },

    get layout(): Record<string, boolean> {
      return { "has-side": this.showsSide, "has-large-notes": this.largeNotes && this.showsSide, "is-left-handed": this.leftHanded };
    },
  });
