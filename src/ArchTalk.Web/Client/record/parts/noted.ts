import type { KeyLine, KeyLineKind, Note, NoteKind } from "../../scene/boards-state";
import { sayAfterMs } from "../../player/halts";
import { part } from "../../shared/alpine";
import { focusWhenShown } from "../../shared/focus";
import { clock } from "../../shared/format";
import { machine, session } from "../page";
import type { RecordPage } from "./whole";

const words: Record<NoteKind, string> = {
  later: "Fix later",
  once: "Only this time",
  chapter: "Chapter",
  ask: "Ask and wait",
  repeat: "Say after me",
  answer: "Ask, then show",
  term: "Said",
};

/** What is asked for when a note is worded. */
const asked: Record<NoteKind, string> = {
  later: "What to fix",
  once: "Why only this time",
  chapter: "Name of the chapter",
  ask: "Question",
  repeat: "Question",
  answer: "Question",
  term: "Term",
};

const keyWords: Record<KeyLineKind, string> = { write: "To write down", mark: "To mark in the book", look: "To look at" };

/** What the line was made of: it is looked at whenever a pen moves. */
let shown: { notes: readonly Note[]; keyLines: ReadonlyMap<number, KeyLine> } | null = null;

/** A note or a key line as the line of what has been noted shows it. */
interface Line {
  number: number;
  time: string;
  note: Note | null;
  key: KeyLine | null;
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
      const { notes, keyLines } = desk.state;
      if (notes === shown?.notes && keyLines === shown.keyLines) {
        return;
      }

      shown = { notes, keyLines };
      this.holdsOnlyThisTime = desk.onlyThisTime !== null;
      const all = [
        ...notes.map((note) => ({ number: note.number, note, key: null })),
        ...[...keyLines].map(([number, key]) => ({ number, note: null, key })),
      ];
      all.forEach(({ number }) => (this.noteTimes[number] ??= session().view.liveMs));
      this.lines = all.sort((a, b) => b.number - a.number).map((l) => ({ ...l, time: clock(this.noteTimes[l.number]!) }));
      this.takePlan(notes);
      if (!all.some((l) => l.number === this.wording)) {
        this.wording = 0;
      }
    },

    get hasNoted(): boolean {
      return this.canNote && this.lines.length > 0;
    },

    noteThat(kind: NoteKind, text: string): void {
      this.noteWith((stamp) => machine().desk.note(kind, text, 0, stamp));
    },

    noteWith(make: (stamp: number) => number): void {
      if (this.canNote) {
        const { liveMs } = session().view;
        this.noteTimes[make(performance.now())] = liveMs;
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

    takeOffNote({ note, key }: Line): void {
      const { desk } = machine();
      if (note) {
        desk.takeOff(note, performance.now());
      } else if (key) {
        desk.dropKeyLine(key, performance.now());
      }

      this.afterInput();
    },

    noteWord({ note, key }: Line): string {
      return note ? words[note.kind] : key ? keyWords[key.kind] : "";
    },

    noteText({ note, key }: Line): string {
      return note?.kind === "once" && !note.isOver ? "until pressed again" : note ? note.text : key?.text || "as it is written";
    },

    takeOffWords(line: Line): string {
      return `Take off: ${this.noteWord(line)} at ${line.time}`;
    },

    wordNote({ number, note, key }: Line): void {
      this.wording = this.wording === number ? 0 : number;
      if (this.wording) {
        this.wordingText = note?.text ?? key?.text ?? "";
        focusWhenShown(() => this.$refs["noteText"]);
      }
    },

    get worded(): Note | null {
      return this.lines.find((l) => l.number === this.wording)?.note ?? null;
    },

    get isWording(): boolean {
      return this.worded !== null || this.isWordingKey;
    },

    get wordedLabel(): string {
      return this.worded ? asked[this.worded.kind] : "Words of the key line";
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
      this.changeKeyLine({});
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
      this.setNoteText();
      this.wording = 0;
    },
  });
