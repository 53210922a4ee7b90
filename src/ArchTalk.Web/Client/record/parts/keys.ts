import { part } from "../../shared/alpine";
import { keepChoice, keptChoice } from "../../shared/kept";
import { changed, type Deed, deeds, type Keys, keysFrom, usual } from "../keys";
import type { Tool } from "../tools";
import type { RecordPage } from "./whole";

const memory = "record-keys";

/** The list of keys, where each can be changed. */
export const keys = () =>
  part<RecordPage>()({
    ownKeys: keysFrom(keptChoice(memory, {})),
    /** The deed whose key is being changed. */
    changing: "" as Deed | "",
    keyWords: "",

    get keyList(): { deed: Deed; words: string; key: string }[] {
      return (Object.keys(deeds) as Deed[]).map((deed) => ({ deed, words: deeds[deed], key: this.ownKeys[deed].toUpperCase() }));
    },

    /** A hint with the key of a deed behind it. */
    keyed(words: string, deed: Deed): string {
      return this.singleKeys ? `${words} (${this.ownKeys[deed].toUpperCase()})` : words;
    },

    showKeys(): void {
      this.keyWords = "";
      this.changing = "";
      (this.$refs["keyList"] as unknown as HTMLDialogElement).showModal();
    },

    closeKeys(): void {
      (this.$refs["keyList"] as unknown as HTMLDialogElement).close();
    },

    changeKey(deed: Deed): void {
      this.changing = this.changing === deed ? "" : deed;
      this.keyWords = this.changing ? `Press the new key for ${deeds[deed]}.` : "";
    },

    isChanging(deed: Deed): boolean {
      return this.changing === deed;
    },

    keyFace({ deed, key }: { deed: Deed; key: string }): string {
      return this.changing === deed ? "…" : key;
    },

    /** In the list keys do nothing else; Tab and Escape stay what they are. */
    takeKey(event: KeyboardEvent): void {
      event.stopPropagation();
      const deed = this.changing;
      if (!deed || event.key === "Tab" || event.key === "Shift" || event.ctrlKey || event.altKey || event.metaKey) {
        return;
      }

      event.preventDefault();
      if (event.key === "Escape") {
        this.changing = "";
        this.keyWords = "";
        return;
      }

      const after = changed(this.ownKeys, deed, event.key);
      if (typeof after === "string") {
        this.keyWords = after;
        return;
      }

      this.keepKeys(after.keys);
      this.changing = "";
      this.keyWords = `${deeds[deed]} is ${after.keys[deed].toUpperCase()} now` +
        `${after.swapped ? `, ${deeds[after.swapped]} is ${after.keys[after.swapped].toUpperCase()}` : ""}.`;
    },

    usualKeys(): void {
      this.keepKeys(usual);
      this.changing = "";
      this.keyWords = "All keys are as they were at first.";
    },

    keepKeys(keys: Keys): void {
      this.ownKeys = keys;
      keepChoice(memory, keys);
    },

    /** What keys do while nothing is taken back: a deed that has a tool's name takes that tool. */
    get deedsByKey(): Record<string, () => void> {
      const doing: Record<Exclude<Deed, Tool>, () => void> = {
        retake: () => this.canRetake && this.retake(),
        ask: () => this.askAndWait(),
        chapter: () => this.chapterHere(),
        later: () => this.fixLater(),
        once: () => this.onlyThisTime(),
        term: () => this.sayNextTerm(),
        key: () => void this.keyLine(),
        out: () => this.putOut(),
        closer: () => this.closer(),
        farther: () => this.farther(),
        whole: () => this.wholeBoard(),
      };
      const act = (deed: Deed): (() => void) => (deed in doing ? doing[deed as Exclude<Deed, Tool>] : () => this.takeTool(deed as Tool));
      return Object.fromEntries((Object.keys(deeds) as Deed[]).map((deed) => [this.ownKeys[deed], act(deed)]));
    },
  });
