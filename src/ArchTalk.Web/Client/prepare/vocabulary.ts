import { extended } from "../shared/alpine";
import { call, sendFile } from "../shared/api";
import { newId } from "../shared/ids";
import { pickedFiles } from "../shared/picked";
import { api, page } from "./page";
import { listOf } from "./section";

interface Term {
  id: string;
  word: string;
  reading: string;
  meaning: string;
  language: string;
  partOfSpeech: string;
  translations: { language: string; text: string }[];
  example: string;
  parts: string;
  synonym: string;
  confusedWith: string;
  memoryAid: string;
  status: string;
}

interface Place {
  termId: string;
  boardId: string;
  board: string;
  number: number;
}

interface Earlier {
  lesson: string;
  term: Term;
}

/** A table before it is taken in. */
interface TableLook {
  hasHeader: boolean;
  columns: string[];
  sample: string[][];
  rows: number;
}

const translation = "translation ";

const blank = (): Term => ({
  id: newId(),
  word: "",
  reading: "",
  meaning: "",
  language: "",
  partOfSpeech: "",
  translations: [],
  example: "",
  parts: "",
  synonym: "",
  confusedWith: "",
  memoryAid: "",
  status: "new",
});

export const vocabulary = () => {
  const base = listOf<Term>("Terms", blank);
  const init = base.init;
  return extended(base, {
    lines: "",
    table: null as TableLook | null,
    tableFile: null as File | null,
    tableColumns: [] as { name: string; language: string }[],
    tableHeader: false,
    places: [] as Place[],
    earlierTerms: [] as Earlier[],

    init() {
      init.call(this);
      void this.loadAround();
    },

    async loadAround() {
      await this.attempt(async () => {
        this.places = await call<Place[]>("GET", `${api}/terms/places`);
        this.earlierTerms = await call<Earlier[]>("GET", `${api}/terms/earlier`);
      });
    },

    async addLines() {
      const lines = this.lines;
      if (lines.includes("\t")) {
        await this.lookAt(new File([lines], "cells.tsv"));
      } else if (await this.run((version) => call("POST", `${api}/terms/add`, { lines, version }), "Added")) {
        this.lines = "";
      }
    },

    sort() {
      void this.run((version) => call("POST", `${api}/terms/sort`, { version }), "In alphabetical order");
    },

    pickList(event: Event) {
      const [file] = pickedFiles(event);
      if (file) {
        void this.lookAt(file);
      }
    },

    // --- A table before it is taken in ---

    /** A table is looked at first, so that its columns can be named; TBX says itself what its parts are. */
    async lookAt(file: File) {
      await this.attempt(async () => {
        const { table } = await sendFile<{ table: TableLook | null }>("POST", `${api}/terms/look`, file);
        this.tableFile = file;
        if (table) {
          this.table = table;
          this.tableColumns = table.columns.map((name) => ({
            name: name.startsWith(translation) ? translation.trim() : name,
            language: name.slice(translation.length),
          }));
          this.tableHeader = table.hasHeader;
          this.$nextTick(() => this.$root.querySelector<HTMLElement>("#table-heading")?.focus());
        } else {
          await this.takeIn("");
        }
      });
    },

    async takeTable() {
      const columns = this.tableColumns.map((c) => (c.name === translation.trim() ? `${translation}${c.language.trim()}` : c.name));
      await this.takeIn(`&hasHeader=${String(this.tableHeader)}${columns.map((c) => `&column=${encodeURIComponent(c)}`).join("")}`);
    },

    async takeIn(how: string) {
      const file = this.tableFile!;
      if (await this.run((version) => sendFile("POST", `${api}/terms/import?version=${version}${how}`, file), "Taken in")) {
        this.lines = file.name === "cells.tsv" ? "" : this.lines;
        this.leaveTable();
      }
    },

    leaveTable() {
      this.table = null;
      this.tableFile = null;
    },

    hasTable(): boolean {
      return this.table !== null;
    },

    tableRows(): string[][] {
      return this.table ? this.table.sample.slice(this.tableHeader ? 1 : 0) : [];
    },

    /** What the first row calls a column. */
    tableName(index: number): string {
      return (this.tableHeader && this.table?.sample[0]?.[index]) || `Column ${index + 1}`;
    },

    isTranslated(column: { name: string }): boolean {
      return column.name === translation.trim();
    },

    noWords(): boolean {
      return !this.tableColumns.some((c) => c.name === "word");
    },

    tableCount(): string {
      const rows = this.table ? this.table.rows + Number(this.table.hasHeader) - Number(this.tableHeader) : 0;
      return rows === 1 ? "Take in 1 row" : `Take in ${rows} rows`;
    },

    /** Tab in the last field of the last word goes on to a new word. */
    nextTerm(item: Term, event: KeyboardEvent) {
      if (event.key === "Tab" && !event.shiftKey && item === this.form.items.at(-1) && item.word.trim() !== "") {
        event.preventDefault();
        this.add();
      }
    },

    addTranslation(item: Term) {
      item.translations.push({ language: "", text: "" });
    },

    removeTranslation(item: Term, translation: object) {
      this.removeFrom(item.translations, translation);
    },

    hasPlaces(item: Term): boolean {
      return this.placesOf(item).length > 0;
    },

    placesOf(item: Term): Place[] {
      return this.places.filter((p) => p.termId === item.id);
    },

    placeLink(place: Place): string {
      return `/lessons/${page.lesson}/prepare/${place.boardId}`;
    },

    /** What earlier lessons have and this one doesn't. */
    knownBefore(): Earlier[] {
      const here = new Set(this.form.items.map((t) => t.word.toLowerCase()));
      return this.earlierTerms.filter((e) => !here.has(e.term.word.toLowerCase()));
    },

    hasKnownBefore(): boolean {
      return this.knownBefore().length > 0;
    },

    isKnownBefore(item: Term): boolean {
      return this.earlierTerms.some((e) => e.term.word.toLowerCase() === item.word.trim().toLowerCase());
    },

    takeEarlier(earlier: Earlier) {
      this.form.items.push({ ...blank(), ...earlier.term, id: newId(), status: "known" });
      void this.section.save();
    },
  });
};
