import { extended, fromLines, sectionOf, toLines } from "./section";

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

export const task = () => {
  const base = sectionOf<Task, Form>(
    "Task",
    blank,
    (t) => ({ ...t, steps: t.steps.map((text) => ({ text })), choices: toLines(t.choices) }),
    (f) => ({ ...f, steps: f.steps.map((s) => s.text), choices: fromLines(f.choices) }),
  );
  type This = typeof base;
  return extended(base, {
    addStep(this: This) {
      this.addTo(this.form.steps, { text: "" }, "ol");
    },

    removeStep(this: This, step: object) {
      this.removeFrom(this.form.steps, step);
    },

    earlier(this: This, step: object) {
      this.moveIn(this.form.steps, step, -1);
    },

    later(this: This, step: object) {
      this.moveIn(this.form.steps, step, 1);
    },

    addClass(this: This) {
      this.addTo(this.form.classes, { class: "", where: "", when: "" }, "ul");
    },

    removeClass(this: This, row: object) {
      this.removeFrom(this.form.classes, row);
    },
  });
};
