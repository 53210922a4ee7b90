import type { Place } from "../ink/near";
import { part } from "../shared/alpine";
import type { WatchPage } from "./whole";

/** Where the controls lie over the board they go away after this long without a hand, in ms. */
const controlsStayMs = 3000;

/** A phone held sideways has no room for controls below the board; the same words stand in site.css. */
const sideways = "(max-height: 500px) and (orientation: landscape)";

let away = 0;

/** The whole screen for the board, and controls that lie over it. */
export const screen = () =>
  part<WatchPage>()({
    isFull: false,
    isSideways: false,
    showsControls: true,

    watchScreen(): void {
      document.addEventListener("fullscreenchange", () => (this.isFull = document.fullscreenElement !== null));
      const query = matchMedia(sideways);
      this.isSideways = query.matches;
      query.addEventListener("change", () => (this.isSideways = query.matches));
      const audio = this.$refs["voice"] as HTMLAudioElement;
      audio.addEventListener("play", () => this.showControls());
      audio.addEventListener("pause", () => this.showControls());
    },

    get isOver(): boolean {
      return this.isFull || this.isSideways;
    },

    get playerLook(): Record<string, boolean> {
      return { "is-full": this.isFull, "is-over": this.isOver, "is-quiet": this.isOver && !this.showsControls, "is-closer": this.isCloser };
    },

    showControls(): void {
      this.showsControls = true;
      clearTimeout(away);
      away = window.setTimeout(() => (this.showsControls = !this.isPlaying), controlsStayMs);
    },

    /**
     * The board was tapped: controls that are away come first, what was drawn leads to its moment, and a blank is tried.
     * @param drawnAt When what was hit began to be drawn, in ms; null when nothing was.
     */
    tapped(drawnAt: number | null, place: Place): void {
      if (this.isOver && !this.showsControls) {
        this.showControls();
      } else if (drawnAt !== null) {
        this.goToInk(drawnAt);
      } else if (!this.tryAt(place)) {
        this.toggle();
      }
    },

    // Where an element can't fill the screen (some phones), the page is laid out so that the board fills the window.
    async fullScreen(): Promise<void> {
      const stage = this.$refs["player"]!;
      if (document.fullscreenElement) {
        await document.exitFullscreen();
      } else if (stage.requestFullscreen) {
        await stage.requestFullscreen();
      } else {
        this.isFull = !this.isFull;
      }
    },

    get fullWord(): string {
      return this.isFull ? "Leave the full screen" : "Full screen";
    },
  });
