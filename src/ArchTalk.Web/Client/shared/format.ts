/** Milliseconds as people read a clock: 3:07, or 1:02:09. */
export function clock(ms: number): string {
  const seconds = Math.max(0, Math.floor(ms / 1000));
  const two = (n: number) => String(n).padStart(2, "0");
  const hours = Math.floor(seconds / 3600);
  const minutes = Math.floor(seconds / 60) % 60;
  return hours > 0 ? `${hours}:${two(minutes)}:${two(seconds % 60)}` : `${minutes}:${two(seconds % 60)}`;
}

/** The same with tenths: 3:07.4. */
export function clockTenths(ms: number): string {
  return `${clock(ms)}.${Math.floor((Math.max(ms, 0) % 1000) / 100)}`;
}

/** A short length: 4.2 s. */
export function seconds(ms: number): string {
  return `${(ms / 1000).toFixed(1)} s`;
}

/** Milliseconds in words, for screen readers: "3 minutes 7 seconds". */
export function spoken(ms: number): string {
  const seconds = Math.max(0, Math.floor(ms / 1000));
  const part = (n: number, word: string) => (n === 0 ? "" : `${n} ${word}${n === 1 ? "" : "s"}`);
  const words = [part(Math.floor(seconds / 3600), "hour"), part(Math.floor(seconds / 60) % 60, "minute"), part(seconds % 60, "second")];
  return words.filter(Boolean).join(" ") || "0 seconds";
}

/** A day and a time of day as the reader's language writes them. */
export function day(at: number | string): string {
  return new Date(at).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" });
}
