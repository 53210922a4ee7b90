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

const blank = (): Term => ({
  id: newId(), word: "", reading: "", meaning: "", language: "", partOfSpeech: "", translations: [], example: "", parts: "", synonym: "",
  confusedWith: "", memoryAid: "", status: "new",
});

export const vocabulary = () => {
  const base = listOf<Term>("Terms", blank);
  const init = base.init;
  return extended(base, {
    lines: "",
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
      if (await this.run((version) => call("POST", `${api}/terms/add`, { lines, version }), "Added")) {
        this.lines = "";
      }
    },

    sort() {
      void this.run((version) => call("POST", `${api}/terms/sort`, { version }), "In alphabetical order");
    },

    pickList(event: Event) {
      const [file] = pickedFiles(event);
      if (file) {
        void this.run((version) => sendFile("POST", `${api}/terms/import?version=${version}`, file), "Read");
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
