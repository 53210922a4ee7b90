import type { Note, NoteKind } from "../../scene/boards-state";
import { part } from "../../shared/alpine";
import { focusWhenShown } from "../../shared/focus";
import { clock } from "../../shared/format";
import { machine, session } from "../page";
import type { RecordPage } from "./whole";

/** How long a student has to say it after the teacher, unless it is said otherwise, in ms. */
const sayAfterMs = 3000;

const words: Record<NoteKind, string> = {
  later: "Fix later",
  once: "Only this time",
  chapter: "Chapter",
  ask: "Ask and wait",
  repeat: "Say after me",
  answer: "Ask, then show",
};

/** What the line was made of: it is looked at whenever a pen moves. */
let shown: readonly Note[] | null = null;

/** A note as the line of what has been noted shows it. */
interface Line {
  note: Note;
  time: string;
}

/** What is noted with one press while recording: the line of it, where a wrong one is taken off and a stop is worded. */
export const noted = () =>
  part<RecordPage>()({
    lines: [] as Line[],
    /** What is said now holds only this time. */
    holdsOnlyThisTime: false,
    /** Where each note lies in what counts of the take, in ms. */
    noteTimes: {} as Record<number, number>,
    /** The number of the note that is being worded; 0 for none. */
    wording: 0,
    /** What is typed about it; noted when the field is left. */
    wordingText: "",

    /** Notes can be made while a take runs, also while it is held. */
    get canNote(): boolean {
      return this.isRecording || this.isPaused;
    },

    /** The tools of a family, when they are shown, take the place of the notes. */
    get showsNoting(): boolean {
      return this.canNote && !this.openFamily;
    },

    get showsLine(): boolean {
      return !this.canNote && !this.openFamily;
    },

    takeNotes(): void {
      const { desk } = machine();
      const { notes } = desk.state;
      if (notes === shown) {
        return;
      }

      shown = notes;
      this.holdsOnlyThisTime = desk.onlyThisTime !== null;
      this.lines = notes.map((note) => ({ note, time: clock(this.noteTimes[note.number] ?? 0) })).reverse();
      if (!notes.some((n) => n.number === this.wording)) {
        this.wording = 0;
      }
    },

    get hasNoted(): boolean {
      return this.canNote && this.lines.length > 0;
    },

    noteThat(kind: NoteKind, text: string): void {
      if (this.canNote) {
        const number = machine().desk.note(kind, text, 0, performance.now());
        this.noteTimes[number] = session().view.liveMs;
        this.afterInput();
      }
    },

    fixLater(): void {
      this.noteThat("later", "");
    },

    /** Named by its board until it is worded. */
    chapterHere(): void {
      this.noteThat("chapter", this.boardTitle);
    },

    askAndWait(): void {
      this.noteThat("ask", "");
    },

    /** Until it is pressed again, or the take ends. */
    onlyThisTime(): void {
      if (!this.holdsOnlyThisTime) {
        this.noteThat("once", "");
      } else if (this.canNote) {
        machine().desk.endOnlyThisTime(performance.now());
        this.afterInput();
      }
    },

    takeOffNote(line: Line): void {
      machine().desk.takeOff(line.note, performance.now());
      this.afterInput();
    },

    noteWord({ note }: Line): string {
      return words[note.kind];
    },

    noteText({ note }: Line): string {
      return note.kind === "once" && !note.isOver ? "until pressed again" : note.text;
    },

    takeOffWords(line: Line): string {
      return `Take off: ${words[line.note.kind]} at ${line.time}`;
    },

    wordNote({ note }: Line): void {
      this.wording = this.wording === note.number ? 0 : note.number;
      if (this.wording) {
        this.wordingText = note.text;
        focusWhenShown(() => this.$refs["noteText"]);
      }
    },

    get worded(): Note | null {
      return this.lines.find(({ note }) => note.number === this.wording)?.note ?? null;
    },

    get isWording(): boolean {
      return this.worded !== null;
    },

    get wordedLabel(): string {
      const kind = this.worded?.kind;
      return kind === "chapter" ? "Name of the chapter" : kind === "later" ? "What to fix" : kind === "once" ? "Why only this time" : "Question";
    },

    get isWordingStop(): boolean {
      const kind = this.worded?.kind;
      return kind === "ask" || kind === "repeat" || kind === "answer";
    },

    get wordedKind(): string {
      return this.worded?.kind ?? "";
    },

    get wordedSeconds(): string {
      return String((this.worded?.waitMs || sayAfterMs) / 1000);
    },

    get isTimed(): boolean {
      return this.worded?.kind === "repeat";
    },

    setNoteText(): void {
      this.reword({});
    },

    setStopKind(event: Event): void {
      const kind = (event.target as HTMLSelectElement).value as NoteKind;
      this.reword({ kind, waitMs: kind === "repeat" ? sayAfterMs : 0 });
    },

    setStopSeconds(event: Event): void {
      this.reword({ waitMs: Number((event.target as HTMLSelectElement).value) * 1000 });
    },

    reword(change: Partial<Note>): void {
      const note = this.worded;
      if (note && this.canNote) {
        const { kind, waitMs } = { ...note, ...change };
        machine().desk.renote(note, kind, this.wordingText.trim(), waitMs, performance.now());
        this.afterInput();
      }
    },

    closeWording(): void {
      this.reword({});
      this.wording = 0;
    },
  });
