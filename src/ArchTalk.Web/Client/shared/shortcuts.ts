// Keys of a page. Those of a single character can be switched off (WCAG 2.2, 2.1.4): speech input and a knock on the keyboard
// would press them by chance. The choice holds for all pages of this browser.

import { part } from "./alpine";
import { keepChoice, keptChoice } from "./kept";

const choice = "single-keys";

export interface Shortcuts {
  singleKeys: boolean;
  toggleSingleKeys(): void;
}

export const shortcuts = (): Shortcuts =>
  part<Shortcuts>()({
    singleKeys: keptChoice(choice, true),

    toggleSingleKeys(): void {
      this.singleKeys = !this.singleKeys;
      keepChoice(choice, this.singleKeys);
    },
  });

/**
 * Runs the action of a key, unless a field is being typed into. Names are those of `KeyboardEvent.key`, with "Ctrl+" before for
 * Ctrl or the command key, and "Shift+" for Shift with a key that isn't a character. A letter is capital with Shift, whatever the lock says.
 */
export function runKey(event: KeyboardEvent, actions: Record<string, () => void>, singleKeys: boolean): void {
  const target = event.target as HTMLElement;
  if (event.altKey || target.matches("input:not([type=checkbox]), textarea, select, [contenteditable=true]")) {
    return;
  }

  const isCharacter = event.key.length === 1;
  const command = event.ctrlKey || event.metaKey;
  if (isCharacter && !command && (!singleKeys || (event.key === " " && target.matches("button, a, summary, [role=button], input")))) {
    return;
  }

  const name = !isCharacter ? event.key : event.shiftKey && !command ? event.key.toUpperCase() : event.key.toLowerCase();
  const shift = event.shiftKey && (!isCharacter || command) ? "Shift+" : "";
  const action = actions[`${command ? "Ctrl+" : ""}${shift}${name}`];
  if (action) {
    event.preventDefault();
    action();
  }
}
