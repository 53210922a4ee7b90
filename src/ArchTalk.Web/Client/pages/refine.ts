import { Player } from "../player/player";
import { type Transport, transport } from "../player/transport";
import { type Voice, voice } from "../refine/voice";
import { combined, part, start } from "../shared/alpine";
import { call } from "../shared/api";
import { type Faults, faults } from "../shared/faults";
import { clock } from "../shared/format";
import { newId } from "../shared/ids";
import { type Loading, loading } from "../shared/loading";
import { pageData } from "../shared/page-data";
import { SectionList } from "../shared/section-list";
import { runKey, type Shortcuts, shortcuts } from "../shared/shortcuts";
import { type Stepping, stepping } from "../shared/stepping";
import { Timeline } from "../timeline/timeline";

interface Chapter {
  id: string;
  title: string;
  take: string | null;
  takeSample: number;
}

interface RefinePage extends Faults, Loading, Shortcuts, Stepping, Transport, Voice, ReturnType<typeof chapters> {}

const page = pageData<{ lesson: string; lastTakeMs: number }>("page-data");
const api = `/api/lessons/${page.lesson}`;

let player: Player | null = null;
let section: SectionList<Chapter[]> | null = null;

const chapters = () =>
  part<RefinePage>()({
    chapters: [] as Chapter[],
    status: "",
    isFault: false,

    async init(): Promise<void> {
      const audio = this.$refs["voice"] as HTMLAudioElement;
      this.listenTo(audio);
      window.addEventListener("keydown", (e) => runKey(e, this.keys, this.singleKeys));
      await this.loadWith(async () => {
        const timeline = await Timeline.load(`/lessons/${page.lesson}/timeline.json`);
        this.lengthMs = timeline.length;
        player = new Player(this.$refs["board"] as HTMLCanvasElement, audio, timeline, {
          moved: (ms) => (this.ms = ms),
          inkMissing: (isMissing) => (this.inkMissing = isMissing),
          held: (isHeld) => this.hold(isHeld, audio),
        });
        if (page.lastTakeMs > 0) {
          player.seek(page.lastTakeMs);
        }

        await this.loadChapters();
        await this.loadVoice(audio);
      });
    },

    async loadChapters(): Promise<void> {
      section = new SectionList<Chapter[]>(
        `${api}/sections/Chapters`,
        () => JSON.parse(JSON.stringify(this.chapters)) as Chapter[],
        (view, isSaved) => {
          this.chapters = isSaved ? this.chapters : view.content;
          this.takeSteps(view);
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

    async propose(): Promise<void> {
      await this.attempt(async () => {
        this.chapters = await call<Chapter[]>("GET", `${api}/chapters/proposed`);
        await section?.save();
      });
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

    goTo(chapter: Chapter): void {
      this.go(this.timeOf(chapter));
    },

    changed(): void {
      section?.changed();
    },

    add(): void {
      const moment = player?.timeline.momentAt(this.ms);
      if (moment) {
        const id = newId();
        this.chapters.push({ id, title: `Part from ${clock(this.ms)}`, take: moment.take, takeSample: moment.sample });
        this.sort();
        void section?.save();
        this.$nextTick(() => (document.getElementById(`chapter-${id}`) as HTMLInputElement | null)?.select());
      }
    },

    startHere(chapter: Chapter): void {
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

    remove(chapter: Chapter): void {
      const at = this.chapters.indexOf(chapter);
      this.chapters.splice(at, 1);
      void section?.save();
      const next = this.chapters[Math.min(at, this.chapters.length - 1)];
      this.$nextTick(() => document.getElementById(next ? this.fieldId(next) : "add-chapter")?.focus());
    },

    sort(): void {
      this.chapters.sort((a, b) => this.timeOf(a) - this.timeOf(b));
    },

    fieldId(chapter: Chapter): string {
      return `chapter-${chapter.id}`;
    },

    seekTo(event: Event): void {
      this.go(Number((event.target as HTMLInputElement).value));
    },

    get timeOfLength(): string {
      return `${this.time} of ${clock(this.lengthMs)}`;
    },

    get keys(): Record<string, () => void> {
      return {
        " ": () => this.toggle(),
        ArrowLeft: () => this.back(),
        ArrowRight: () => this.forward(),
        "Ctrl+z": () => this.undo(),
        "Ctrl+y": () => this.redo(),
      };
    },
  });

start({
  refine: () =>
    combined(
      faults(),
      loading(),
      shortcuts(),
      transport<RefinePage>(
        () => player,
        function () {
          this.fault = "The browser did not let the voice play. Press Play once more.";
        },
      ),
      stepping<RefinePage>((direction) => void section?.step(direction)),
      chapters(),
      voice(page.lesson),
    ),
});
