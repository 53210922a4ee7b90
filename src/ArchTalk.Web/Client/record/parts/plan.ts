import type { Note } from "../../scene/boards-state";
import { part } from "../../shared/alpine";
import { clock } from "../../shared/format";
import { machine, page } from "../page";
import type { RecordPage } from "./whole";

/** A chapter that was begun in this take: its title, and when in what counts of the take, in ms. */
interface Begun {
  title: string;
  at: number;
}

/** What was planned: the parts of the agenda with the time each has taken, and the terms still to be said. */
export const plan = () =>
  part<RecordPage>()({
    /** Terms that earlier takes of the lesson say. */
    saidBefore: [] as string[],
    /** The notes of terms said in this take. */
    saidNow: [] as Note[],
    begun: [] as Begun[],

    takePlan(notes: readonly Note[]): void {
      this.saidNow = notes.filter((n) => n.kind === "term");
      this.begun = notes.filter((n) => n.kind === "chapter").map((n) => ({ title: n.text, at: this.noteTimes[n.number]! }))
        .sort((a, b) => a.at - b.at);
    },

    isSaid(id: string): boolean {
      return this.saidNow.some((n) => n.term === id) || this.saidBefore.includes(id);
    },

    get saidWords(): string {
      return `${page.terms.filter((t) => this.isSaid(t.id)).length} of ${page.terms.length} said`;
    },

    /** A term is said now; pressed again it is taken off, where this take said it. */
    sayTerm(event: Event): void {
      this.sayOrTakeOff((event.currentTarget as HTMLElement).dataset["term"]!);
    },

    sayOrTakeOff(id: string): void {
      const note = this.saidNow.find((n) => n.term === id);
      if (note && this.canNote) {
        machine().desk.takeOff(note, performance.now());
        this.afterInput();
      } else {
        const word = page.terms.find((t) => t.id === id)?.word ?? "";
        this.noteWith((stamp) => machine().desk.noteTerm(id, word, stamp));
      }
    },

    sayNextTerm(): void {
      const next = page.terms.find((t) => !this.isSaid(t.id));
      if (next) {
        this.sayOrTakeOff(next.id);
      }
    },

    /** A part of the agenda begins: it is a chapter of the lesson. */
    beginPart(event: Event): void {
      const { title } = page.agenda[Number((event.currentTarget as HTMLElement).dataset["part"])]!;
      if (!this.isPart(title)) {
        this.noteThat("chapter", title);
      }
    },

    isPart(title: string): boolean {
      return this.canNote && this.begun.at(-1)?.title === title;
    },

    isPartAt(index: number): boolean {
      return this.isPart(page.agenda[index]!.title);
    },

    /** How long a part has been talked about in this take, in ms. */
    spentMs(index: number): number {
      const { title } = page.agenda[index]!;
      const until = (i: number): number => this.begun[i + 1]?.at ?? this.view.liveMs;
      return this.begun.reduce((sum, b, i) => sum + (b.title === title ? until(i) - b.at : 0), 0);
    },

    isOverdue(index: number): boolean {
      const { minutes } = page.agenda[index]!;
      return minutes !== null && this.spentMs(index) > minutes * 60_000;
    },

    /** What a part has taken of its time. */
    partTime(index: number): string {
      const { minutes } = page.agenda[index]!;
      const spent = this.canNote && this.begun.some((b) => b.title === page.agenda[index]!.title) ? clock(this.spentMs(index)) : "";
      const planned = minutes === null ? "" : `${minutes} min`;
      return spent && planned ? `${spent} of ${planned}` : spent || planned;
    },

    get plannedWords(): string {
      const planned = page.agenda.reduce((sum, p) => sum + (p.minutes ?? 0), 0);
      return planned === 0 ? "" : `${Number(planned.toFixed(1))} min planned${this.canNote ? `, ${clock(this.view.liveMs)} recorded` : ""}`;
    },
  });
