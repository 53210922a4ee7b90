import { Player } from "../player/player";
import { component, start } from "../shared/alpine";
import { call, messageOf } from "../shared/api";
import { clock } from "../shared/format";
import { pageData } from "../shared/page-data";
import { SectionList } from "../shared/section-list";
import { Timeline } from "../timeline/timeline";

interface Chapter {
  id: string;
  title: string;
  take: string | null;
  takeSample: number;
}

const page = pageData<{ lesson: string; hasRecording: boolean; lastTakeMs: number }>("page-data");
const api = `/api/lessons/${page.lesson}`;

let player: Player | null = null;
let section: SectionList<Chapter[]> | null = null;

const refine = () =>
  component({
    chapters: [] as Chapter[],
    canUndo: false,
    canRedo: false,
    status: "",
    isFault: false,
    fault: "",
    ms: 0,
    lengthMs: 0,
    isPlaying: false,
    loaded: false,

    async init() {
      if (!page.hasRecording) {
        return;
      }

      try {
        const timeline = await Timeline.load(`/lessons/${page.lesson}/timeline.json`);
        this.lengthMs = timeline.length;
        const audio = this.$refs["voice"] as HTMLAudioElement;
        player = new Player(this.$refs["board"] as HTMLCanvasElement, audio, timeline, (ms) => (this.ms = ms));
        audio.addEventListener("play", () => (this.isPlaying = true));
        audio.addEventListener("pause", () => (this.isPlaying = false));
        if (page.lastTakeMs > 0) {
          player.seek(page.lastTakeMs);
        }

        await this.loadChapters();
        this.loaded = true;
      } catch (error) {
        this.fault = messageOf(error);
      }

      window.addEventListener("keydown", (e) => this.key(e));
    },

    async loadChapters() {
      section = new SectionList<Chapter[]>(
        `${api}/sections/Chapters`,
        () => JSON.parse(JSON.stringify(this.chapters)) as Chapter[],
        (view, isSaved) => {
          this.chapters = isSaved ? this.chapters : view.content;
          this.canUndo = view.canUndo;
          this.canRedo = view.canRedo;
          this.sort();
        },
        (status, isFault) => {
          this.status = status;
          this.isFault = isFault;
        },
      );
      await section.load();
      if (this.chapters.length === 0 && !this.canUndo && !this.canRedo) {
        await this.propose();
        this.status = "These chapters are proposed from the boards you showed and the long silences. Change what you like.";
      }
    },

    async propose() {
      try {
        this.chapters = await call<Chapter[]>("GET", `${api}/chapters/proposed`);
        await section?.save();
      } catch (error) {
        this.fault = messageOf(error);
      }
    },

    timeOf(chapter: Chapter): number {
      return chapter.take === null ? 0 : (player?.timeline.timeOf({ take: chapter.take, sample: chapter.takeSample }) ?? 0);
    },

    clockOf(chapter: Chapter): string {
      return clock(this.timeOf(chapter));
    },

    isGone(chapter: Chapter): boolean {
      return chapter.take !== null && player?.timeline.timeOf({ take: chapter.take, sample: chapter.takeSample }) === null;
    },

    isCurrent(chapter: Chapter): boolean {
      return this.chapters.findLast((c) => this.timeOf(c) <= this.ms + 1) === chapter;
    },

    goTo(chapter: Chapter) {
      player?.seek(this.timeOf(chapter));
    },

    changed() {
      section?.changed();
    },

    add() {
      const moment = player?.timeline.momentAt(this.ms);
      if (moment) {
        const id = crypto.randomUUID();
        this.chapters.push({ id, title: `Part from ${clock(this.ms)}`, take: moment.take, takeSample: moment.sample });
        this.sort();
        void section?.save();
        this.$nextTick(() => (document.getElementById(`chapter-${id}`) as HTMLInputElement | null)?.select());
      }
    },

    startHere(chapter: Chapter) {
      const moment = player?.timeline.momentAt(this.ms);
      if (moment) {
        chapter.take = moment.take;
        chapter.takeSample = moment.sample;
        this.sort();
        void section?.save();
      }
    },

    isFirst(chapter: Chapter): boolean {
      return this.chapters[0] === chapter;
    },

    remove(chapter: Chapter) {
      this.chapters.splice(this.chapters.indexOf(chapter), 1);
      void section?.save();
    },

    sort() {
      this.chapters.sort((a, b) => this.timeOf(a) - this.timeOf(b));
    },

    fieldId(chapter: Chapter): string {
      return `chapter-${chapter.id}`;
    },

    undo() {
      void section?.step("undo");
    },

    redo() {
      void section?.step("redo");
    },

    get noUndo(): boolean {
      return !this.canUndo;
    },

    get noRedo(): boolean {
      return !this.canRedo;
    },

    toggle() {
      void player?.toggle();
    },

    back() {
      player?.seek(this.ms - 10_000);
    },

    forward() {
      player?.seek(this.ms + 10_000);
    },

    seekTo(event: Event) {
      player?.seek(Number((event.target as HTMLInputElement).value));
    },

    get playWord(): string {
      return this.isPlaying ? "Pause" : "Play";
    },

    get time(): string {
      return `${clock(this.ms)} of ${clock(this.lengthMs)}`;
    },

    key(event: KeyboardEvent) {
      if ((event.target as HTMLElement).matches("input, textarea, select, button")) {
        return;
      }

      const actions: Record<string, () => void> = { " ": () => this.toggle(), ArrowLeft: () => this.back(), ArrowRight: () => this.forward() };
      const action = actions[event.key];
      if (action) {
        event.preventDefault();
        action();
      }
    },
  });

start({ refine });
