import assert from "node:assert/strict";
import { test } from "node:test";
import type { Gesture, Surface } from "../input/gesture";
import { Hands } from "../input/hands";
import { slideGesture, type Window } from "../input/looking";
import type { View } from "../scene/scene";

/** A canvas of 1600 by 900 pixels at the window's corner, and what hands made of events on it. */
function setUp(fingerWrites = true) {
  const handlers = new Map<string, (e: object) => void>();
  const canvas = {
    addEventListener: (type: string, handler: (e: object) => void) => handlers.set(type, handler),
    getBoundingClientRect: () => ({ left: 0, top: 0, width: 1600, height: 900 }),
    setPointerCapture: () => undefined,
  } as unknown as HTMLElement;
  const said: string[] = [];
  const gesture = (name: string): Gesture => {
    said.push(`${name} begins`);
    return {
      move: (s) => said.push(`${name} moves ${s.at(-1)!.x}`),
      up: () => said.push(`${name} ends`),
      cancel: () => said.push(`${name} never was`),
    };
  };
  const state = { fingerWrites };
  const surface: Surface = {
    begin: (_, kind) => gesture(kind),
    slide: () => gesture("slide"),
    pinch: () => {
      said.push("pinch begins");
      return { move: (s) => said.push(`pinch ${Math.round(s.apart)}`), up: () => said.push("pinch ends") };
    },
    hover: (sample) => said.push(sample ? `over ${sample.x}` : "gone"),
    get fingerWrites() {
      return state.fingerWrites;
    },
    penSeen: () => {
      said.push("a pen!");
      state.fingerWrites = false;
    },
  };
  const hands = new Hands(canvas, surface);
  let stamp = 0;
  const send = (type: string, pointerType: string, pointerId: number, x = 100, more: object = {}) => {
    stamp += 10;
    handlers.get(type)!({
      pointerType,
      pointerId,
      clientX: x,
      clientY: 100,
      pressure: 0.5,
      button: 0,
      width: 20,
      height: 20,
      timeStamp: stamp,
      preventDefault: () => undefined,
      ...more,
    });
  };
  return { hands, said, send, wait: (ms: number) => (stamp += ms) };
}

test("a palm that lands before the pen leaves nothing, and while the pen writes it does nothing", () => {
  const { said, send } = setUp();
  send("pointerdown", "touch", 1);
  send("pointermove", "touch", 1, 110);
  send("pointerdown", "pen", 2);
  send("pointermove", "touch", 1, 400);
  send("pointermove", "pen", 2, 120);
  send("pointerdown", "touch", 3, 700);
  send("pointermove", "touch", 3, 900);
  send("pointerup", "touch", 3);
  send("pointerup", "pen", 2);
  send("pointerup", "touch", 1);
  assert.deepEqual(said, ["touch begins", "touch moves 110", "a pen!", "touch never was", "pen begins", "pen moves 120", "pen ends"]);
});

test("two fingers move the view, take back what the first began, and neither writes afterwards", () => {
  const { said, send } = setUp();
  send("pointerdown", "touch", 1, 100);
  send("pointerdown", "touch", 2, 200);
  send("pointermove", "touch", 2, 300);
  send("pointerdown", "touch", 3, 500);
  send("pointermove", "touch", 3, 600);
  send("pointerup", "touch", 2);
  send("pointermove", "touch", 1, 150);
  send("pointerup", "touch", 1);
  send("pointerup", "touch", 3);
  send("pointerdown", "touch", 4, 100);
  assert.deepEqual(said, ["touch begins", "touch never was", "pinch begins", "pinch 200", "pinch ends", "touch begins"]);
});

test("after a pen was seen a finger moves the view, once the hand has left", () => {
  const { said, send, wait } = setUp();
  send("pointermove", "pen", 1, 50);
  send("pointerdown", "touch", 2);
  send("pointermove", "touch", 2, 500);
  send("pointerup", "touch", 2);
  wait(2000);
  send("pointerdown", "touch", 3);
  assert.deepEqual(said, ["a pen!", "over 50", "slide begins"], "a finger down while the pen is near is the resting hand");
});

test("a broad contact is a palm", () => {
  const { said, send } = setUp();
  send("pointerdown", "touch", 1, 100, { width: 90, height: 60 });
  assert.deepEqual(said, []);
});

test("a lost pointer takes its gesture back, a lifted one ends it, each once", () => {
  const { said, send } = setUp();
  send("pointerdown", "mouse", 1);
  send("pointercancel", "mouse", 1);
  send("lostpointercapture", "mouse", 1);
  send("pointerdown", "mouse", 1);
  send("pointerup", "mouse", 1);
  send("lostpointercapture", "mouse", 1);
  assert.deepEqual(said, ["mouse begins", "mouse never was", "mouse begins", "mouse ends"]);
});

test("a second pointer and other mouse buttons do nothing", () => {
  const { said, send } = setUp();
  send("pointerdown", "mouse", 1, 100, { button: 2 });
  send("pointerdown", "mouse", 1);
  send("pointerdown", "pen", 2);
  send("pointermove", "pen", 2, 300);
  send("pointerup", "pen", 2);
  send("pointerup", "mouse", 1);
  assert.deepEqual(said, ["mouse begins", "a pen!", "mouse ends"]);
});

test("what is dropped was not meant; what is finished counts; neither pointer is heard until it is lifted", () => {
  const { hands, said, send } = setUp();
  send("pointerdown", "mouse", 1);
  hands.drop(5);
  send("pointermove", "mouse", 1, 300);
  send("pointerup", "mouse", 1);
  send("pointerdown", "mouse", 1);
  hands.finish(6);
  send("pointermove", "mouse", 1, 300);
  send("pointerup", "mouse", 1);
  send("pointermove", "mouse", 1, 310);
  assert.deepEqual(said, ["mouse begins", "mouse never was", "mouse begins", "mouse ends", "over 310"]);
});

test("all points between two frames arrive, each with its own stamp", () => {
  const { said, send } = setUp();
  const stamps: number[] = [];
  send("pointerdown", "mouse", 1);
  const coalesced = [101, 102, 103].map((x, i) => ({ pointerType: "mouse", clientX: x, clientY: 1, pressure: 0, timeStamp: 40 + i }));
  send("pointermove", "mouse", 1, 103, { getCoalescedEvents: () => (stamps.push(...coalesced.map((c) => c.timeStamp)), coalesced) });
  assert.deepEqual(said.at(-1), "mouse moves 103");
  assert.deepEqual(stamps, [40, 41, 42]);
});

test("a resting finger doesn't slide the view, a moving one does, and what wasn't meant is set back", () => {
  let view: View = { x: 0, y: 0, width: 16_000 };
  const window: Window = {
    get view() {
      return view;
    },
    width: 1600,
    look: (v) => (view = v),
  };
  const at = (y: number) => ({ x: 500, y, pressure: 0.5, stamp: y });
  const slide = slideGesture(window, at(500));
  slide.move([at(495)]);
  assert.equal(view.y, 0);
  slide.move([at(400)]);
  assert.equal(view.y, 1000, "a hundred pixels are a thousand tenths");
  slide.cancel(0);
  assert.equal(view.y, 0);
  let taps = 0;
  slideGesture(window, at(1), 8, () => taps++).up(at(1));
  assert.equal(taps, 1);
});
