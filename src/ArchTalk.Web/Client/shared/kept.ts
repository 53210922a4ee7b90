// Small choices of this browser. Where nothing can be kept (a private window) they hold as long as the page.

export function keptChoice<T>(name: string, otherwise: T): T {
  try {
    const text = localStorage.getItem(`archtalk-${name}`);
    return text === null ? otherwise : (JSON.parse(text) as T);
  } catch {
    return otherwise;
  }
}

export function keepChoice(name: string, value: unknown): void {
  try {
    localStorage.setItem(`archtalk-${name}`, JSON.stringify(value));
  } catch {
    // Nothing can be kept in this browser.
  }
}
