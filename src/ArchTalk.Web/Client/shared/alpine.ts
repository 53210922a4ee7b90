// The one place that knows Alpine. Its CSP build evaluates only names and calls, so all logic stands in components.
// @ts-expect-error The package ships no types.
import alpine from "@alpinejs/csp";

interface AlpineApi {
  data(name: string, component: (...args: never[]) => object): void;
  directive(name: string, handler: (el: HTMLElement, what: { expression: string }, tools: Tools) => void): void;
  mutateDom(change: () => void): void;
  start(): void;
}

interface Tools {
  effect(work: () => void): void;
  evaluateLater(expression: string): (then: (value: unknown) => void) => void;
}

/** What Alpine adds to a component while it is alive. */
export interface Magics {
  $el: HTMLElement;
  $root: HTMLElement;
  $refs: Record<string, HTMLElement>;
  $nextTick(then: () => void): void;
}

const api = alpine as AlpineApi;

// As Alpine's own, but words that stay the same are left alone: a clock is asked sixty times a second, and writing it lays the page out anew.
api.directive("text", (el, { expression }, { effect, evaluateLater }) => {
  const evaluate = evaluateLater(expression);
  effect(() => evaluate((value) => {
    const text = String(value ?? "");
    if (el.textContent !== text) {
      api.mutateDom(() => (el.textContent = text));
    }
  }));
});

/** Registers the components of a page and starts Alpine. */
export function start(components: Record<string, () => object>): void {
  for (const [name, component] of Object.entries(components)) {
    api.data(name, component);
  }

  api.start();

  // Until now nothing hears a click: see site.css.
  document.documentElement.dataset["started"] = "";
}

/** Types `this` inside a component: its own members and Alpine's. */
export function component<T extends object>(members: T & ThisType<T & Magics>): T {
  return members;
}

/**
 * One subject of a component that has several: `this` is the whole component. Methods must say what they give back, since the
 * type of the whole is made of them.
 */
export function part<Whole extends object>() {
  return <T extends object>(members: T & ThisType<Whole & Magics>): T => members;
}

/** A component of its parts. */
export function combined(...parts: object[]): object {
  return parts.reduce((whole, one) => Object.defineProperties(whole, Object.getOwnPropertyDescriptors(one)), {});
}

/** A component with further members; they are typed like its own, and getters stay getters. */
export function extended<T extends object, U extends object>(base: T, members: U & ThisType<T & U & Magics>): T & U {
  return Object.defineProperties(base, Object.getOwnPropertyDescriptors(members)) as T & U;
}
