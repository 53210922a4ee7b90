import { antiforgeryToken, call, messageOf } from "../shared/api";
import type { SectionView } from "../shared/section-list";
import { api, page } from "./page";
import { extended, listOf } from "./section";

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
  id: crypto.randomUUID(), word: "", reading: "", meaning: "", language: "", partOfSpeech: "", translations: [], example: "", parts: "", synonym: "",
  confusedWith: "", memoryAid: "", status: "new",
});

type List = ReturnType<typeof listOf<Term>>;

export const vocabulary = () => {
  const base = listOf<Term>("Terms", blank);
  const init = base.init;
  return extended(base, {
    lines: "",
    places: [] as Place[],
    earlierTerms: [] as Earlier[],

    init(this: List & { loadAround(): Promise<void> }) {
      init.call(this);
      void this.loadAround();
    },

    async loadAround(this: List & { places: Place[]; earlierTerms: Earlier[] }) {
      try {
        this.places = await call<Place[]>("GET", `${api}/terms/places`);
        this.earlierTerms = await call<Earlier[]>("GET", `${api}/terms/earlier`);
      } catch (error) {
        this.status = messageOf(error);
        this.isFault = true;
      }
    },

    async addLines(this: List & { lines: string }) {
      const lines = this.lines;
      const done = await this.run((version) => call<SectionView<Term[]>>("POST", `${api}/terms/add`, { lines, version }), "Added");
      if (done) {
        this.lines = "";
      }
    },

    sort(this: List) {
      void this.run((version) => call<SectionView<Term[]>>("POST", `${api}/terms/sort`, { version }), "In alphabetical order");
    },

    pickList(this: List, event: Event) {
      const input = event.currentTarget as HTMLInputElement;
      const file = input.files?.[0];
      input.value = "";
      if (file) {
        void this.run((version) => importList(file, version), "Read");
      }
    },

    addTranslation(this: List, item: Term) {
      item.translations.push({ language: "", text: "" });
    },

    removeTranslation(this: List, item: Term, translation: object) {
      this.removeFrom(item.translations, translation);
    },

    hasPlaces(this: { places: Place[] }, item: Term): boolean {
      return this.places.some((p) => p.termId === item.id);
    },

    placesOf(this: { places: Place[] }, item: Term): Place[] {
      return this.places.filter((p) => p.termId === item.id);
    },

    placeLink(place: Place): string {
      return `/lessons/${page.lesson}/prepare/${place.boardId}`;
    },

    /** What earlier lessons have and this one doesn't. */
    knownBefore(this: List & { earlierTerms: Earlier[] }): Earlier[] {
      const here = new Set(this.form.items.map((t) => t.word.toLowerCase()));
      return this.earlierTerms.filter((e) => !here.has(e.term.word.toLowerCase()));
    },

    hasKnownBefore(this: { knownBefore(): Earlier[] }): boolean {
      return this.knownBefore().length > 0;
    },

    isKnownBefore(this: { earlierTerms: Earlier[] }, item: Term): boolean {
      return this.earlierTerms.some((e) => e.term.word.toLowerCase() === item.word.trim().toLowerCase());
    },

    takeEarlier(this: List, earlier: Earlier) {
      this.form.items.push({ ...blank(), ...earlier.term, id: crypto.randomUUID(), status: "known" });
      void this.section.save();
    },
  });
};

async function importList(file: File, version: number): Promise<SectionView<Term[]>> {
  const answer = await fetch(`${api}/terms/import?version=${version}`, {
    method: "POST", body: file, headers: { "X-Antiforgery": antiforgeryToken(), "X-File-Name": encodeURIComponent(file.name) },
  });
  const body = (await answer.json()) as SectionView<Term[]> & { message?: string };
  if (!answer.ok) {
    throw new Error(body.message ?? "The list could not be read. Nothing was changed.");
  }

  return body;
}
