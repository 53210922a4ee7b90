// The waveforms of takes, loaded piece by piece as they come into sight.

/** Samples of a stretch at each resolution: 5 ms and 50 ms. */
const stretches = [240, 2400] as const;

/** So many stretches are loaded at once: a minute of the finest, an hour of the other. */
const pieces = [12_000, 72_000] as const;

export type Resolution = 0 | 1;

/** @param samplesPerPixel Finer stretches than a pixel can show are not loaded. */
export function resolutionFor(samplesPerPixel: number): Resolution {
  return samplesPerPixel < stretches[1] / 2 ? 0 : 1;
}

export class Peaks {
  private readonly loaded = new Map<string, Int16Array | null>();

  /**
   * @param address Of the lesson's takes.
   * @param news Called when a piece has come.
   */
  constructor(
    private readonly address: string,
    private readonly news: () => void,
  ) {}

  /** The lowest and the highest sample of a stretch of a take; null while it isn't there. */
  between(take: string, from: number, to: number, resolution: Resolution): [number, number] | null {
    const first = Math.floor(from / stretches[resolution]);
    const last = Math.max(first + 1, Math.ceil(to / stretches[resolution]));
    let [low, high] = [Infinity, -Infinity];
    for (let i = first; i < last; ) {
      const number = Math.floor(i / pieces[resolution]);
      const piece = this.piece(take, resolution, number);
      if (!piece) {
        return null;
      }

      const end = Math.min(last, (number + 1) * pieces[resolution]);
      for (; i < end; i++) {
        const at = 2 * (i - number * pieces[resolution]);
        if (at < piece.length) {
          low = Math.min(low, piece[at]!);
          high = Math.max(high, piece[at + 1]!);
        }
      }
    }

    return low > high ? [0, 0] : [low, high];
  }

  private piece(take: string, resolution: Resolution, number: number): Int16Array | null {
    const key = `${take} ${resolution} ${number}`;
    const known = this.loaded.get(key);
    if (known === undefined) {
      this.loaded.set(key, null);
      void this.load(key, `${this.address}/${take}/${resolution}?from=${number * pieces[resolution]}&count=${pieces[resolution]}`);
    }

    return known ?? null;
  }

  // What failed is asked for again when it is next looked at.
  private async load(key: string, address: string): Promise<void> {
    try {
      const response = await fetch(address);
      if (!response.ok) {
        throw new Error(`${address} answered ${response.status}.`);
      }

      this.loaded.set(key, new Int16Array(await response.arrayBuffer()));
      this.news();
    } catch {
      this.loaded.delete(key);
    }
  }
}
