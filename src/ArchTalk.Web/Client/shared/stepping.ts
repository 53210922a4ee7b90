import { part } from "./alpine";

export type Direction = "undo" | "redo";

/** Undo and redo as every page offers them: two buttons that know whether there is anything to take back or put back. */
export interface Stepping {
  canUndo: boolean;
  canRedo: boolean;
  readonly noUndo: boolean;
  readonly noRedo: boolean;
  undo(): void;
  redo(): void;
  /** Takes over what can be done now. */
  takeSteps(view: { canUndo: boolean; canRedo: boolean }): void;
}

/** @param step Does the step; `this` is the whole component. */
export const stepping = <Whole extends object>(step: (this: Whole, direction: Direction) => void): Stepping =>
  part<Stepping & Whole>()({
    canUndo: false,
    canRedo: false,

    get noUndo(): boolean {
      return !this.canUndo;
    },

    get noRedo(): boolean {
      return !this.canRedo;
    },

    undo(): void {
      step.call(this, "undo");
    },

    redo(): void {
      step.call(this, "redo");
    },

    takeSteps(view: { canUndo: boolean; canRedo: boolean }): void {
      this.canUndo = view.canUndo;
      this.canRedo = view.canRedo;
    },
  });
