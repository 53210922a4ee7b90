import type { Region } from "../../input/glide";
import { closeIn, wholeWidth } from "../../scene/scene";
import { part } from "../../shared/alpine";
import { machine, page } from "../page";
import type { RecordPage } from "./whole";

const slideShare = 0.4;

/** Which board is shown, and through which view. */
export const boards = () =>
  part<RecordPage>()({
    boardIndex: 0,
    viewTop: 0,
    lowestTop: 0,
    isClose: false,
    frame: null as Region | null,
    canLengthen: false,
    canClear: false,
    isLit: false,
    covers: 0,
    coversLeft: 0,

    showBoard(event: Event): void {
      this.goTo(Number((event.currentTarget as HTMLElement).dataset["index"]));
    },

    goTo(index: number): void {
      const { desk, hands, glide } = machine();
      glide.stop();
      hands.finish(performance.now());
      desk.show(index, performance.now());
      this.afterInput();
      document.getElementById(`strip-${this.boardIndex}`)?.scrollIntoView({ block: "nearest", inline: "nearest" });
    },

    get cannotShowBoards(): boolean {
      return !this.loaded || this.isRetaking;
    },

    previousBoard(): void {
      this.goTo(this.boardIndex - 1);
    },

    nextBoard(): void {
      this.goTo(this.boardIndex + 1);
    },

    get boardTitle(): string {
      return page.boards[this.boardIndex]?.title ?? "";
    },

    /** The speaking notes of the board shown. */
    get notes(): string {
      return page.boards[this.boardIndex]?.notes ?? "";
    },

    get boardPlace(): string {
      return `${this.boardIndex + 1} of ${page.boards.length}`;
    },

    slideDown(): void {
      this.slide(0, slideShare);
    },

    slideUp(): void {
      this.slide(0, -slideShare);
    },

    slideRight(): void {
      this.slide(slideShare, 0);
    },

    slideLeft(): void {
      this.slide(-slideShare, 0);
    },

    slide(across: number, down: number): void {
      const { window } = machine();
      const { view } = window;
      window.look({ ...view, x: view.x + view.width * across, y: view.y + (view.width * 9 * down) / 16 }, performance.now());
    },

    slideTo(event: Event): void {
      const { window } = machine();
      window.look({ ...window.view, y: Number((event.target as HTMLInputElement).value) }, performance.now());
    },

    get cannotSlide(): boolean {
      return this.lowestTop === 0 || this.isRetaking;
    },

    closer(): void {
      this.zoom(1.25);
    },

    farther(): void {
      this.zoom(0.8);
    },

    zoom(factor: number): void {
      const { window } = machine();
      const { view } = window;
      window.look(closeIn(view, view.x + view.width / 2, view.y + (view.width * 9) / 32, factor), performance.now());
    },

    wholeBoard(): void {
      const { window, glide } = machine();
      glide.to({ ...wholeWidth, y: window.view.y });
    },

    get hasFrame(): boolean {
      return this.frame !== null;
    },

    /** The region that is being chosen, over the board. */
    get framePlace(): Record<string, string> {
      const { from, to } = this.frame ?? { from: { x: 0, y: 0 }, to: { x: 0, y: 0 } };
      return {
        left: `${Math.min(from.x, to.x)}px`,
        top: `${Math.min(from.y, to.y)}px`,
        width: `${Math.abs(to.x - from.x)}px`,
        height: `${Math.abs(to.y - from.y)}px`,
      };
    },

    get isWhole(): boolean {
      return !this.isClose;
    },

    lengthen(): void {
      machine().desk.lengthen(performance.now());
      this.slideDown();
    },

    /** Everything drawn on the board that is shown goes; undo brings it back. */
    clearBoard(): void {
      this.holdHands();
      machine().desk.clear(performance.now());
      this.afterInput();
    },

    get cannotClear(): boolean {
      return !this.canClear;
    },

    putOut(): void {
      machine().desk.putOut(performance.now());
      this.afterInput();
    },

    uncoverNext(): void {
      machine().desk.uncoverNext(performance.now());
      this.afterInput();
    },

    get noCoversLeft(): boolean {
      return this.coversLeft === 0;
    },

    get uncoverWord(): string {
      if (this.covers === 0) {
        return "Uncover";
      }

      return this.coversLeft === 0 ? "All uncovered" : this.coversLeft === 1 ? "Uncover the last" : `Uncover next of ${this.coversLeft}`;
    },
  });
