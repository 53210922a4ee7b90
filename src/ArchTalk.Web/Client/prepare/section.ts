// What the vocabulary, the references, the task and the details have in common: a form over one section of the lesson, saved as
// it is typed, with undo and redo.

import { extended } from "../shared/alpine";
import { messageOf } from "../shared/api";
import { loading } from "../shared/loading";
import { SectionList, type SectionView } from "../shared/section-list";
import { stepping } from "../shared/stepping";
import { api } from "./page";

/**
 * @param kind The section's name on the server.
 * @param blank An empty form.
 * @param toForm Makes of what the server keeps what the fields hold; `fromForm` goes back.
 */
export function sectionOf<Content, Form extends object>(
  kind: string,
  blank: () => Form,
  toForm: (content: Content) => Form,
  fromForm: (form: Form) => Content,
) {
  const steps = stepping<{ section: SectionList<Content> }>(function (direction) {
    void this.section.step(direction);
  });
  return extended(extended(steps, loading()), {
    form: blank(),
    status: "",
    isFault: false,
    section: null as unknown as SectionList<Content>,

    init() {
      this.section = new SectionList<Content>(
        `${api}/sections/${kind}`,
        () => JSON.parse(JSON.stringify(fromForm(this.form))) as Content,
        (view, isSaved) => {
          // The fields are not rewritten by a save, so that nothing jumps under the teacher's hands.
          if (!isSaved) {
            this.form = toForm(view.content);
          }

          this.takeSteps(view);
        },
        (status, isFault) => {
          this.status = status;
          this.isFault = isFault;
        },
      );
      void this.loadWith(() => this.section.load());
    },

    get notLoaded(): boolean {
      return !this.loaded;
    },

    changed() {
      this.section.changed();
    },

    /** Does something beside the section; says what went wrong where saving is told of. */
    async attempt(work: () => Promise<void>) {
      try {
        await work();
      } catch (error) {
        this.status = messageOf(error);
        this.isFault = true;
      }
    },

    /** Lets the server do something with the whole section; it is told which state it starts from. */
    run(work: (version: number) => Promise<SectionView<Content> & { said?: string }>, said: string) {
      return this.section.run(work, said);
    },

    // --- Lists in the form ---

    /** Adds an entry and puts the cursor into its first field. */
    addTo(list: object[], entry: object, within: string) {
      list.push(entry);
      this.$nextTick(() => this.$root.querySelector<HTMLElement>(`${within} > li:last-of-type :is(input, select, textarea)`)?.focus());
    },

    /** Takes an entry out; the focus goes to the one that follows, or to the button that adds one. */
    removeFrom(list: object[], entry: object, within = "ol") {
      const at = list.indexOf(entry);
      list.splice(at, 1);
      void this.section.save();
      this.$nextTick(() => {
        const rows = this.$root.querySelectorAll<HTMLElement>(`${within} > li`);
        const next = rows[Math.min(at, rows.length - 1)]?.querySelector<HTMLElement>("input, select, textarea");
        (next ?? this.$root.querySelector<HTMLElement>("[data-add]"))?.focus();
      });
    },

    moveIn(list: object[], entry: object, by: number) {
      const from = list.indexOf(entry);
      const to = from + by;
      if (to >= 0 && to < list.length) {
        list.splice(to, 0, ...list.splice(from, 1));
        void this.section.save();
      }
    },
  });
}

/** A section that is one list of entries with identities. */
export function listOf<T extends { id: string }>(kind: string, blank: () => T) {
  return extended(
    sectionOf<T[], { items: T[] }>(
      kind,
      () => ({ items: [] }),
      (items) => ({ items }),
      (form) => form.items,
    ),
    {
      add() {
        this.addTo(this.form.items, blank(), "ol");
      },

      remove(item: T) {
        this.removeFrom(this.form.items, item);
      },

      earlier(item: T) {
        this.moveIn(this.form.items, item, -1);
      },

      later(item: T) {
        this.moveIn(this.form.items, item, 1);
      },

      get isEmpty(): boolean {
        return this.loaded && this.form.items.length === 0;
      },
    },
  );
}

export const toLines = (lines: string[]): string => lines.join("\n");

export const fromLines = (text: string): string[] =>
  text
    .split("\n")
    .map((l) => l.trim())
    .filter(Boolean);
