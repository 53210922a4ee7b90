import { Player } from "../player/player";
import { component, start } from "../shared/alpine";
import { clock, spoken } from "../shared/format";
import { pageData } from "../shared/page-data";
import { type Moment, Timeline } from "../timeline/timeline";

const page = pageData<{ token: string; files: string; lengthMs: number }>("page-data");
const speeds = [0.5, 0.75, 1, 1.25, 1.5, 1.75, 2];
const step = 10_000;
const rememberEveryMs = 2000;
const memory = `archtalk-watch-${page.token}`;

let player: Player | null = null;

const watch = () =>
  component({
    ms: 0,
    lengthMs: page.lengthMs,
    isPlaying: false,
    isWaiting: false,
    rate: 1,
    volume: 1,
    chapter: -1,
    chapterTimes: [] as number[],
    chapterTitles: [] as string[],
    fault: "",
    resumed: "",
    rememberedAt: 0,
    isFull: false,

    async init() {
      try {
        const timeline = await Timeline.load(`${page.files}/timeline.json`);
        this.lengthMs = timeline.length;
        this.chapterTimes = timeline.chapters.map((c) => c.at);
        this.chapterTitles = timeline.chapters.map((c) => c.title);
        const audio = this.$refs["voice"] as HTMLAudioElement;
        player = new Player(this.$refs["board"] as HTMLCanvasElement, audio, timeline, (ms) => this.moved(ms));
        this.listen(audio);
        this.continueWhere(timeline);
      } catch {
        this.fault = "The lesson could not be loaded. Check your connection and reload the page.";
      }

      window.addEventListener("keydown", (e) => this.key(e));
      document.addEventListener("fullscreenchange", () => (this.isFull = document.fullscreenElement !== null));
    },

    listen(audio: HTMLAudioElement) {
      audio.addEventListener("play", () => (this.isPlaying = true));
      audio.addEventListener("pause", () => {
        this.isPlaying = false;
        this.remember();
      });
      audio.addEventListener("waiting", () => (this.isWaiting = true));
      audio.addEventListener("playing", () => (this.isWaiting = false));
      audio.addEventListener("seeked", () => (this.isWaiting = false));
      (this.$refs["source"] as HTMLSourceElement).addEventListener("error", () => {
        this.fault = "The voice could not be loaded. Check your connection and reload the page.";
      });
    },

    // A link may name a moment (#t=12.5); otherwise it goes on where this browser left off.
    continueWhere(timeline: Timeline) {
      const named = /^#t=([\d.]+)$/.exec(location.hash);
      if (named) {
        this.go(Number(named[1]) * 1000);
        return;
      }

      try {
        const kept = JSON.parse(localStorage.getItem(memory) ?? "null") as Moment | null;
        const ms = kept ? timeline.timeOf(kept) : null;
        if (ms !== null && ms > 3000 && ms < timeline.length - 3000) {
          this.go(ms);
          this.resumed = clock(ms);
        }
      } catch {
        // A browser that keeps nothing starts at the beginning.
      }
    },

    remember() {
      const moment = player?.timeline.momentAt(this.ms);
      if (moment) {
        try {
          localStorage.setItem(memory, JSON.stringify(moment));
        } catch {
          // Nothing can be kept in this browser.
        }
      }
    },

    moved(ms: number) {
      this.ms = ms;
      this.chapter = this.chapterTimes.findLastIndex((at) => at <= ms + 1);
      if (this.isPlaying && performance.now() - this.rememberedAt > rememberEveryMs) {
        this.rememberedAt = performance.now();
        this.remember();
      }
    },

    go(ms: number) {
      player?.seek(ms);
      this.ms = Math.min(Math.max(ms, 0), this.lengthMs);
    },

    toggle() {
      this.resumed = "";
      void player?.toggle().catch(() => (this.fault = "The browser did not let the voice play. Press Play once more."));
    },

    startOver() {
      this.resumed = "";
      this.go(0);
    },

    back() {
      this.go(this.ms - step);
    },

    forward() {
      this.go(this.ms + step);
    },

    goToChapter(event: Event) {
      this.go(this.chapterTimes[Number((event.currentTarget as HTMLElement).dataset["chapter"])] ?? 0);
    },

    isChapter(index: number): boolean {
      return this.chapter === index;
    },

    previousChapter() {
      // Within the first seconds of a chapter one wants the one before.
      const from = this.ms - (this.chapterTimes[this.chapter] ?? 0) < 3000 ? this.chapter - 1 : this.chapter;
      this.go(this.chapterTimes[Math.max(0, from)] ?? 0);
    },

    nextChapter() {
      this.go(this.chapterTimes[this.chapter + 1] ?? this.lengthMs);
    },

    setRate(event: Event) {
      this.rate = Number((event.target as HTMLSelectElement).value);
      player!.audio.playbackRate = this.rate;
    },

    faster(by: number) {
      const next = speeds[Math.min(speeds.length - 1, Math.max(0, speeds.indexOf(this.rate) + by))]!;
      this.rate = next;
      player!.audio.playbackRate = next;
    },

    setVolume(event: Event) {
      this.volume = Number((event.target as HTMLInputElement).value);
      player!.audio.volume = this.volume;
    },

    // Where an element can't fill the screen (some phones), the page is laid out so that the board fills the window.
    async fullScreen() {
      const stage = this.$refs["player"]!;
      if (document.fullscreenElement) {
        await document.exitFullscreen();
      } else if (stage.requestFullscreen) {
        await stage.requestFullscreen();
      } else {
        this.isFull = !this.isFull;
      }
    },

    get playWord(): string {
      return this.isPlaying ? "Pause" : "Play";
    },

    get time(): string {
      return clock(this.ms);
    },

    get spokenTime(): string {
      return `${spoken(this.ms)} of ${spoken(this.lengthMs)}`;
    },

    get chapterTitle(): string {
      return this.chapterTitles[this.chapter] ?? "";
    },

    get doneWidth(): object {
      return { width: `${(100 * this.ms) / Math.max(1, this.lengthMs)}%` };
    },

    get knobPlace(): object {
      return { left: `${(100 * this.ms) / Math.max(1, this.lengthMs)}%` };
    },

    markPlace(at: number): object {
      return { left: `${(100 * at) / Math.max(1, this.lengthMs)}%` };
    },

    get marks(): number[] {
      return this.chapterTimes.slice(1);
    },

    get roundedMs(): number {
      return Math.round(this.ms);
    },

    seekDown(event: PointerEvent) {
      (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
      this.seekTo(event);
    },

    seekMove(event: PointerEvent) {
      if (event.buttons > 0) {
        this.seekTo(event);
      }
    },

    seekTo(event: PointerEvent) {
      const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
      this.go(((event.clientX - box.left) / box.width) * this.lengthMs);
    },

    key(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.altKey || event.metaKey || target.matches("input[type=range], select, textarea")) {
        return;
      }

      const actions: Record<string, () => void> = {
        ArrowLeft: () => (event.shiftKey ? this.previousChapter() : this.back()),
        ArrowRight: () => (event.shiftKey ? this.nextChapter() : this.forward()),
        Home: () => this.go(0),
        End: () => this.go(this.lengthMs),
        "+": () => this.faster(1),
        "-": () => this.faster(-1),
      };
      if (!target.matches("button, a, summary")) {
        actions[" "] = () => this.toggle();
      }

      const action = actions[event.key];
      if (action) {
        event.preventDefault();
        action();
      }
    },
  });

start({ watch });
