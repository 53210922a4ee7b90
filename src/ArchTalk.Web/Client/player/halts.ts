// Where playback halts for a thinking stop: when the lesson plays over it, not when somebody goes past it.

/** How long a student has to say it after the teacher, unless it is said otherwise, in ms. */
export const sayAfterMs = 3000;

/** A lesson that moves on by more than this from one look to the next (ms) was sought; a hidden page looks once in a second. */
const mostBetween = 2500;

export class Halts<Stop extends { at: number }> {
  private last = -1;

  /** @param stops In order of time. */
  constructor(private readonly stops: readonly Stop[]) {}

  /** Somebody went to a place. */
  sought(ms: number): void {
    this.last = ms;
  }

  /** The stop that was played over since the last look; null for none. */
  crossed(ms: number): Stop | null {
    const { last } = this;
    this.last = ms;
    return ms < last || ms - last > mostBetween ? null : (this.stops.find((s) => last < s.at && s.at <= ms) ?? null);
  }
}
