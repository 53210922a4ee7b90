// Loads the copies of pictures as they are needed and gives the best one that is there.

import type { Picture } from "../scene/scene";
import { Backoff } from "../shared/backoff";

/** A copy somewhat smaller than its place on the screen is sharp enough. */
const enough = 0.8;

export class PictureStore {
  private readonly images = new Map<string, HTMLImageElement>();
  private readonly failed = new Set<string>();

  /** @param arrived Called when a picture has come or could not, so that what shows it is painted again. */
  constructor(private readonly arrived: () => void) {}

  /** @param pixels How many pixels the whole board's width takes on the screen. */
  best(pictures: readonly Picture[], pixels: number): HTMLImageElement | null {
    if (pictures.length === 0) {
      return null;
    }

    const wanted = pictures.find((p) => p.width >= pixels * enough) ?? pictures.at(-1)!;
    const image = this.load(wanted.src);
    if (isThere(image)) {
      return image;
    }

    // Meanwhile any other copy will do, the largest first; the smallest comes quickly.
    this.load(pictures[0]!.src);
    const others = pictures.map((p) => this.images.get(p.src)).filter((i) => i !== undefined);
    return others.findLast(isThere) ?? null;
  }

  /** Whether some copy of a picture is there, or none is needed. */
  has(pictures: readonly Picture[]): boolean {
    return pictures.length === 0 || pictures.some((p) => isThere(this.images.get(p.src)));
  }

  /** Whether a picture could not be loaded and is tried again. */
  get isMissing(): boolean {
    return this.failed.size > 0;
  }

  private load(src: string): HTMLImageElement {
    let image = this.images.get(src);
    if (!image) {
      image = new Image();
      image.decoding = "async";
      image.addEventListener("load", () => {
        this.failed.delete(src);
        this.arrived();
      });
      this.retryOnError(image, src);
      image.src = src;
      this.images.set(src, image);
    }

    return image;
  }

  // A picture that did not come (the line was away) is asked for again, with growing pauses.
  private retryOnError(image: HTMLImageElement, src: string): void {
    const pauses = new Backoff();
    image.addEventListener("error", () => {
      if (!this.failed.has(src)) {
        this.failed.add(src);
        this.arrived();
      }

      setTimeout(() => (image.src = src), pauses.next());
    });
  }
}

function isThere(image: HTMLImageElement | undefined): boolean {
  return image !== undefined && image.complete && image.naturalWidth > 0;
}
