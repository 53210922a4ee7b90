import { Player } from "../player/player";
import { part } from "../shared/alpine";
import { clock } from "../shared/format";
import { keepChoice, keptChoice } from "../shared/kept";
import { runKey } from "../shared/shortcuts";
import { type Moment, Timeline } from "../timeline/timeline";
import { page, player, setPlayer } from "./page";
import type { WatchPage } from "./whole";

const speeds = [0.5, 0.75, 1, 1.25, 1.5, 1.75, 2];
const rememberEveryMs = 2000;
const memory = `watch-${page.token}`;

/** What is said with a stroke begins a little before it, in ms. */
const beforeInkMs = 700;

/** Resuming nearer than this to either end is not worth it, in ms. */
const nearEnd = 3000;

/** The lesson as it plays: where it is, its chapters, its speed, and going on tomorrow where it was left. */
export const lesson = () =>
  part<WatchPage>()({
    rate: 1,
    volume: 1,
    chapter: -1,
    chapterTimes: [] as number[],
    chapterTitles: [] as string[],
    resumed: "",
    /** Where the student was before going to what was drawn, in ms. */
    cameFrom: null as number | null,
    rememberedAt: 0,

    async init(): Promise<void> {
      this.lengthMs = page.lengthMs;
      const audio = this.$refs["voice"] as HTMLAudioElement;
      this.listenTo(audio);
      audio.addEventListener("pause", () => this.remember());
      // A page that is left at once is gone before it is told of the pause. One that was only opened leaves what was kept.
      audio.addEventListener("play", () => window.addEventListener("pagehide", () => this.remember()), { once: true });
      // The first comes when no copy can be opened, the second when one is lost on the way, as when the lesson is published anew.
      const lost = (): string =>
        (this.fault =
          "The voice could not be loaded. Check your connection and reload the page; if the lesson was published anew, that opens the new " +
            "version where you are.");
      this.$refs["source"]!.addEventListener("error", lost);
      audio.addEventListener("error", lost);
      window.addEventListener("keydown", (e) => runKey(e, this.keys, this.singleKeys));
      this.watchScreen();
      await this.loadWith(async () => {
        const timeline = await Timeline.load(`${page.files}/timeline.json`);
        this.lengthMs = timeline.length;
        this.chapterTimes = timeline.chapters.map((c) => c.at);
        this.chapterTitles = timeline.chapters.map((c) => c.title);
        const canvas = this.$refs["board"] as HTMLCanvasElement;
        setPlayer(
          new Player(canvas, audio, timeline, {
            moved: (ms) => this.moved(ms),
            inkMissing: (isMissing) => (this.inkMissing = isMissing),
            held: (isHeld) => this.hold(isHeld, audio),
            halted: (stop) => this.halted(stop),
          }),
        );
        this.stopTimes = timeline.stops.map((s) => s.at);
        this.tellPlayerOfStops();
        this.takeKeyLines(timeline);
        this.takeTerms(timeline);
        this.lookCloserOn(canvas);
        this.continueWhere(timeline);
      });
    },

    // A link may name a moment (#t=12.5); otherwise it goes on where this browser left off.
    continueWhere(timeline: Timeline): void {
      const named = /^#t=([\d.]+)$/.exec(location.hash);
      if (named) {
        this.go(Number(named[1]) * 1000);
        return;
      }

      const kept = keptChoice<Moment | null>(memory, null);
      const ms = kept ? timeline.timeOf(kept) : null;
      if (ms !== null && ms > nearEnd && ms < timeline.length - nearEnd) {
        this.go(ms);
        this.resumed = clock(ms);
      }
    },

    remember(): void {
      const shown = player();
      const moment = shown?.timeline.momentAt(shown.time);
      if (moment) {
        keepChoice(memory, moment);
      }
    },

    moved(ms: number): void {
      this.ms = ms;
      this.chapter = this.chapterTimes.findLastIndex((at) => at <= ms + 1);
      this.isCloser = player()?.isCloser ?? false;
      this.cameFrom = this.cameFrom !== null && ms > this.cameFrom ? null : this.cameFrom;
      this.lookForClip();
      this.takeTries(ms);
      if (this.isPlaying) {
        this.resumed = "";
        if (performance.now() - this.rememberedAt > rememberEveryMs) {
          this.rememberedAt = performance.now();
          this.remember();
        }
      }
    },

    /** A moment before something was drawn, so that one hears what is said with it; and a way back. */
    goToInk(drawnAt: number): void {
      this.cameFrom = this.ms;
      this.go(drawnAt - beforeInkMs);
    },

    get hasComeFrom(): boolean {
      return this.cameFrom !== null;
    },

    get cameFromTime(): string {
      return clock(this.cameFrom ?? 0);
    },

    goBackToPlace(): void {
      const back = this.cameFrom;
      this.cameFrom = null;
      if (back !== null) {
        this.go(back);
      }
    },

    startOver(): void {
      this.resumed = "";
      this.go(0);
    },

    goToChapter(event: Event): void {
      this.go(this.chapterTimes[Number((event.currentTarget as HTMLElement).dataset["chapter"])] ?? 0);
    },

    isChapter(index: number): boolean {
      return this.chapter === index;
    },

    previousChapter(): void {
      // Within the first seconds of a chapter one wants the one before.
      const from = this.ms - (this.chapterTimes[this.chapter] ?? 0) < nearEnd ? this.chapter - 1 : this.chapter;
      this.go(this.chapterTimes[Math.max(0, from)] ?? 0);
    },

    nextChapter(): void {
      this.go(this.chapterTimes[this.chapter + 1] ?? this.lengthMs);
    },

    get chapterTitle(): string {
      return this.chapterTitles[this.chapter] ?? "";
    },

    setRate(event: Event): void {
      this.playAt(Number((event.target as HTMLSelectElement).value));
    },

    faster(by: number): void {
      this.playAt(speeds[Math.min(speeds.length - 1, Math.max(0, speeds.indexOf(this.rate) + by))]!);
    },

    playAt(rate: number): void {
      this.rate = rate;
      (this.$refs["voice"] as HTMLAudioElement).playbackRate = rate;
    },

    setVolume(event: Event): void {
      this.volume = Number((event.target as HTMLInputElement).value);
      (this.$refs["voice"] as HTMLAudioElement).volume = this.volume;
    },

    get keys(): Record<string, () => void> {
      return {
        " ": () => this.toggle(),
        ArrowLeft: () => this.back(),
        ArrowRight: () => this.forward(),
        "Shift+ArrowLeft": () => this.previousChapter(),
        "Shift+ArrowRight": () => this.nextChapter(),
        Home: () => this.go(0),
        End: () => this.go(this.lengthMs),
        "+": () => this.faster(1),
        "-": () => this.faster(-1),
        Escape: () => this.backToTeacher(),
      };
    },
  });
