// What the vocabulary, the references, the task and the details have in common: a form over one section of the lesson, saved as
// it is typed, with undo and redo.

import { component } from "../shared/alpine";
import { SectionList, type SectionView } from "../shared/section-list";
import { api } from "./page";

/**
 * @param kind The section's name on the server.
 * @param blank An empty form.
 * @param toForm Makes of what the server keeps what the fields hold; `fromForm` goes back.
 */
export function sectionOf<Content, Form extends object>(kind: string, blank: () => Form, toForm: (content: Content) => Form, fromForm: (form: Form) => Content) {
  return component({
    form: blank(),
    canUndo: false,
    canRedo: false,
    status: "",
    isFault: false,
    isLoaded: false,
    section: null as unknown as SectionList<Content>,

    init() {
      this.section = new SectionList<Content>(
        `${api}/sections/${kind}`,
        () => JSON.parse(JSON.stringify(fromForm(this.form))) as Content,
        (content, canUndo, canRedo) => {
          if (content !== null) {
            this.form = toForm(content);
          }

          this.isLoaded = true;
          this.canUndo = canUndo;
          this.canRedo = canRedo;
        },
        (status, isFault) => {
          this.status = status;
          this.isFault = isFault;
        },
      );
      void this.section.load();
    },

    changed() {
      this.section.changed();
    },

    /** Lets the server do something with the whole section; it is told which state it starts from. */
    run(work: (version: number) => Promise<SectionView<Content>>, said: string) {
      return this.section.run(work, said);
    },

    undo() {
      void this.section.step("undo");
    },

    redo() {
      void this.section.step("redo");
    },

    get noUndo(): boolean {
      return !this.canUndo;
    },

    get noRedo(): boolean {
      return !this.canRedo;
    },

    // --- Lists in the form ---

    /** Adds an entry and puts the cursor into its first field. */
    addTo(list: object[], entry: object, within: string) {
      list.push(entry);
      this.$nextTick(() => this.$root.querySelector<HTMLElement>(`${within} > li:last-of-type :is(input, select, textarea)`)?.focus());
    },

    removeFrom(list: object[], entry: object) {
      list.splice(list.indexOf(entry), 1);
      void this.section.save();
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
  const base = sectionOf<T[], { items: T[] }>(kind, () => ({ items: [] }), (items) => ({ items }), (form) => form.items);
  return Object.defineProperties(base, Object.getOwnPropertyDescriptors(component({
    add(this: typeof base) {
      this.addTo(this.form.items, blank(), "ol");
    },

    remove(this: typeof base, item: T) {
      this.removeFrom(this.form.items, item);
    },

    earlier(this: typeof base, item: T) {
      this.moveIn(this.form.items, item, -1);
    },

    later(this: typeof base, item: T) {
      this.moveIn(this.form.items, item, 1);
    },

    get isEmpty(): boolean {
      return (this as unknown as typeof base).isLoaded && (this as unknown as typeof base).form.items.length === 0;
    },
  }))) as typeof base;
}

/** Adds members to a component; getters stay getters. */
export function extended<T extends object>(base: T, members: object): T {
  return Object.defineProperties(base, Object.getOwnPropertyDescriptors(members));
}

export const toLines = (lines: string[]): string => lines.join("\n");

export const fromLines = (text: string): string[] => text.split("\n").map((l) => l.trim()).filter(Boolean);
