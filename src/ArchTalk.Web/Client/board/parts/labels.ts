import type { LabelView } from "../items";
import { api, live, page } from "../page";
import { part } from "../../shared/alpine";
import { call } from "../../shared/api";
import type { BoardPage } from "./whole";

/** The labels of the board, by number and by alphabet. */
export const labels = () =>
  part<BoardPage>()({
    labels: [] as LabelView[],
    alphabetical: [] as string[],

    get labelList(): { id: string; number: number; text: string; term: string }[] {
      return this.labels.map((l) => ({ id: l.id, number: l.number, text: l.text, term: page.terms.find((t) => t.id === l.termId)?.word ?? "" }));
    },

    get alphabet(): { id: string; number: number; text: string }[] {
      return this.alphabetical.map((id) => this.labels.find((l) => l.id === id)!).filter(Boolean);
    },

    get hasLabels(): boolean {
      return this.labels.length > 0;
    },

    get hasNoLabels(): boolean {
      return this.labels.length === 0;
    },

    async addUnlabelled(): Promise<void> {
      await live.store.settle();
      await this.attempt(async () => {
        const copy = await call<{ id: string }>("POST", `${api}/unlabelled`);
        location.href = `/lessons/${page.lesson}/prepare/${copy.id}`;
      });
    },
  });
