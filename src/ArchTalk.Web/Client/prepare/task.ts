import { extended } from "../shared/alpine";
import { fromLines, sectionOf, toLines } from "./section";

interface ClassHandIn {
  class: string;
  where: string;
  when: string;
}

interface Task {
  steps: string[];
  ready: string;
  handIn: string;
  where: string;
  when: string;
  choices: string[];
  worked: string;
  marking: string;
  classes: ClassHandIn[];
}

type Form = Omit<Task, "steps" | "choices"> & { steps: { text: string }[]; choices: string };

const blank = (): Form => ({ steps: [], ready: "", handIn: "", where: "", when: "", choices: "", worked: "", marking: "", classes: [] });

const form = () =>
  sectionOf<Task, Form>(
    "Task",
    blank,
    (t) => ({ ...t, steps: t.steps.map((text) => ({ text })), choices: toLines(t.choices) }),
    (f) => ({ ...f, steps: f.steps.map((s) => s.text), choices: fromLines(f.choices) }),
  );

export const task = () =>
  extended(form(), {
    addStep() {
      this.addTo(this.form.steps, { text: "" }, "ol");
    },

    /** Enter goes on to a new step after this one; with Shift it breaks the line. */
    nextStep(step: { text: string }, event: KeyboardEvent) {
      if (event.key === "Enter" && !event.shiftKey && !event.isComposing) {
        event.preventDefault();
        const at = this.form.steps.indexOf(step) + 1;
        this.form.steps.splice(at, 0, { text: "" });
        this.$nextTick(() => this.$root.querySelectorAll<HTMLElement>("ol > li textarea")[at]?.focus());
      }
    },

    removeStep(step: object) {
      this.removeFrom(this.form.steps, step);
    },

    earlier(step: object) {
      this.moveIn(this.form.steps, step, -1);
    },

    later(step: object) {
      this.moveIn(this.form.steps, step, 1);
    },

    addClass() {
      this.addTo(this.form.classes, { class: "", where: "", when: "" }, "ul");
    },

    removeClass(row: object) {
      this.removeFrom(this.form.classes, row, "ul");
    },
  });
