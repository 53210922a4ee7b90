import { combined, part, start } from "../shared/alpine";
import { call } from "../shared/api";
import { type Faults, faults } from "../shared/faults";
import { pageData } from "../shared/page-data";

interface DiskPage extends Faults, ReturnType<typeof disk> {}

const page = pageData<{ lesson: string }>("page-data");
const api = `/api/lessons/${page.lesson}`;

const dataOf = (event: Event) => (event.currentTarget as HTMLElement).dataset;

/** What was put aside: put back, or deleted for good once that was asked twice. */
const disk = () =>
  part<DiskPage>()({
    asked: "",

    ask(event: Event): void {
      this.asked = dataOf(event)["id"] ?? "";
    },

    isAsked(id: string): boolean {
      return this.asked === id;
    },

    keep(): void {
      this.asked = "";
    },

    async putBack(event: Event): Promise<void> {
      const { kind, id } = dataOf(event);
      await this.change("POST", `${kind}/${id}/restore`);
    },

    async remove(event: Event): Promise<void> {
      const { kind, id } = dataOf(event);
      await this.change("DELETE", `${kind}/${id}/for-good`);
    },

    async change(method: string, what: string): Promise<void> {
      if (await this.attempt(() => call(method, `${api}/${what}`))) {
        location.reload();
      }
    },
  });

start({ disk: () => combined(faults(), disk()) });
