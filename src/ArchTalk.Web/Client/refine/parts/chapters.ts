import { part } from "../../shared/alpine";
import { call } from "../../shared/api";
import { clock } from "../../shared/format";
import { newId } from "../../shared/ids";
import { SectionList } from "../../shared/section-list";
import type { Direction } from "../../shared/stepping";
import { api, live } from "../page";
import type { RefinePage } from "./whole";

interface Chapter {
  id: string;
  title: string;
  take: string | null;
  takeSample: number;
}

let section: SectionList<Chapter[]> | null = null;

/** Those that are somewhere in the lesson, in order: gone through with every picture. */
let placed: readonly { id: string; at: number }[] = [];

export function stepChapters(direction: Direction): void {
  void section?.step(direction);
}

/** The chapters of the lesson: named, put, moved and removed. */
export const chapters = () =>
  part<RefinePage>()({
    chapters: [] as Chapter[],
    /** Where each is, in ms; null for one that is nowhere. */
    chapterTimes: {} as Record<string, number | null>,
    status: "",
    isFault: false,

    async loadChapters(): Promise<void> {
      section = new SectionList<Chapter[]>(
        `${api}/sections/Chapters`,
        () => JSON.parse(JSON.stringify(this.chapters)) as Chapter[],
        (view, isSaved) => {
          this.chapters = isSaved ? this.chapters : view.content;
          this.takeSteps(view);
          this.sort();
          this.takeRows();
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
        this.sort();
        await section?.save();
      });
    },

    timeOf(chapter: Chapter): number {
      return this.chapterTimes[chapter.id] ?? 0;
    },

    clockOf(chapter: Chapter): string {
      return clock(this.timeOf(chapter));
    },

    isGone(chapter: Chapter): boolean {
      return this.chapterTimes[chapter.id] === null;
    },

    /** The one that is shown. */
    currentChapter: "",

    isCurrent(chapter: Chapter): boolean {
      return this.currentChapter === chapter.id;
    },

    takeCurrent(): void {
      this.currentChapter = placed.findLast((c) => c.at <= this.ms + 1)?.id ?? "";
    },

    goTo(chapter: Chapter): void {
      this.go(this.timeOf(chapter));
    },

    changed(): void {
      section?.changed();
    },

    /** Begins one at the moment shown, from wherever the teacher is on the page. */
    add(): void {
      const moment = live.player?.timeline.momentAt(this.ms);
      if (moment) {
        const id = newId();
        this.chapters.push({ id, title: `Part from ${clock(this.ms)}`, take: moment.take, takeSample: moment.sample });
        this.sort();
        void section?.save();
        this.openChapter(id);
      }
    },

    /** The one that was put or pressed on its row, by its id; it can be removed there. */
    pressedChapter: "",

    get pressed(): Chapter | undefined {
      return this.chapters.find((c) => c.id === this.pressedChapter && !this.isGone(c));
    },

    get hasPressed(): boolean {
      return this.pressed !== undefined;
    },

    get pressedWords(): string {
      return this.pressed ? `Chapter at ${this.clockOf(this.pressed)}: ${this.pressed.title}` : "";
    },

    removePressed(): void {
      if (this.pressed) {
        this.remove(this.pressed);
      }
    },

    /** Shows its name, to be typed over. */
    openChapter(id: string): void {
      this.pressedChapter = id;
      this.showTabOf("chapters");
      this.$nextTick(() => (document.getElementById(`chapter-${id}`) as HTMLInputElement | null)?.select());
    },

    startHere(chapter: Chapter): void {
      this.startAt(chapter, this.ms);
    },

    startAt(chapter: Chapter, ms: number): void {
      const moment = live.player?.timeline.momentAt(ms);
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

    /** A chapter that holds no moment is at the beginning, whatever that is: before something is moved there it gets its own. */
    async anchorChapters(): Promise<void> {
      const start = live.player?.timeline.momentAt(0);
      const loose = this.chapters.filter((c) => c.take === null);
      if (start && loose.length > 0) {
        loose.forEach((c) => Object.assign(c, { take: start.take, takeSample: start.sample }));
        await section?.save();
      }
    },

    /** Where they are in the lesson as it is now, and in that order. */
    sort(): void {
      const timeline = live.player?.timeline;
      const at = ({ take, takeSample }: Chapter): number | null => (take === null || !timeline ? 0 : timeline.timeOf({ take, sample: takeSample }));
      this.chapterTimes = Object.fromEntries(this.chapters.map((c) => [c.id, at(c)]));
      this.chapters.sort((a, b) => this.timeOf(a) - this.timeOf(b));
      placed = this.chapters.filter((c) => !this.isGone(c)).map((c) => ({ id: c.id, at: this.timeOf(c) }));
      this.takeCurrent();
    },

    fieldId(chapter: Chapter): string {
      return `chapter-${chapter.id}`;
    },
  });
