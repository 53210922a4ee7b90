// Pauses between tries that failed: longer each time, up to a bound.

export class Backoff {
  private pause: number;

  /** @param firstMs The first pause; @param longestMs No pause is longer. */
  constructor(private readonly firstMs = 1000, private readonly longestMs = 30_000) {
    this.pause = firstMs;
  }

  /** The pause before the next try, in ms. */
  next(): number {
    const pause = this.pause;
    this.pause = Math.min(2 * pause, this.longestMs);
    return pause;
  }

  /** Waits for the next try. */
  wait(): Promise<void> {
    return new Promise((done) => setTimeout(done, this.next()));
  }

  reset(): void {
    this.pause = this.firstMs;
  }
}
