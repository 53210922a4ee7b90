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
