import assert from "node:assert/strict";
import { test } from "node:test";
import { PictureStore } from "../ink/picture-store";

/** Stands in for the browser's image: what is asked for fails until the line is there. */
class FakeImage {
  static readonly made: FakeImage[] = [];
  asked: string[] = [];
  complete = false;
  naturalWidth = 0;
  private readonly handlers = new Map<string, () => void>();

  constructor() {
    FakeImage.made.push(this);
  }

  addEventListener(type: string, handler: () => void): void {
    this.handlers.set(type, handler);
  }

  set src(address: string) {
    this.asked.push(address);
  }

  tell(type: "load" | "error"): void {
    this.complete = type === "load";
    this.naturalWidth = type === "load" ? 100 : 0;
    this.handlers.get(type)!();
  }
}

test("the right copy is asked for, a smaller one serves meanwhile, and what fails is tried again with growing pauses", () => {
  globalThis.Image = FakeImage as unknown as typeof Image;
  const pauses: number[] = [];
  let again: () => void = () => undefined;
  const timers = globalThis.setTimeout;
  globalThis.setTimeout = ((work: () => void, ms: number) => {
    again = work;
    return pauses.push(ms);
  }) as unknown as typeof setTimeout;
  try {
    let arrived = 0;
    const store = new PictureStore(() => arrived++);
    const copies = [400, 1600, 3840].map((width) => ({ src: `${width}.jpg`, width, height: 1 }));
    assert.equal(store.best(copies, 1500), null);
    const [large, small] = FakeImage.made as [FakeImage, FakeImage];
    assert.deepEqual([large.asked, small.asked], [["1600.jpg"], ["400.jpg"]]);
    small.tell("load");
    assert.equal(store.best(copies, 1500), small);
    assert.deepEqual([store.has(copies), store.isMissing], [true, false]);
    for (let i = 0; i < 3; i++) {
      large.tell("error");
      again();
    }

    assert.equal(store.isMissing, true);

    assert.deepEqual(pauses, [1000, 2000, 4000]);
    assert.equal(large.asked.length, 4);
    large.tell("load");
    assert.equal(store.best(copies, 1500), large);
    assert.equal(store.isMissing, false);
    assert.equal(arrived, 3, "twice that one came, once that one could not");
  } finally {
    globalThis.setTimeout = timers;
  }
});
