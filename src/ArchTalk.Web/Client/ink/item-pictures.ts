// Pictures that lie on boards, loaded when they are first painted. Whoever paints is told when one has come.

import { Backoff } from "../shared/backoff";

const images = new Map<string, HTMLImageElement>();
const painters = new Set<() => void>();
let missing = 0;

/** Calls back when a picture has come that could not be painted before. */
export function onPictures(arrived: () => void): void {
  painters.add(arrived);
}

/** Whether everything that was asked for is there. */
export function arePicturesThere(): boolean {
  return missing === 0;
}

/** The picture when it is there; else it is on its way. */
export function pictureAt(src: string): HTMLImageElement | null {
  let image = images.get(src);
  if (!image) {
    image = new Image();
    image.decoding = "async";
    missing++;
    const pauses = new Backoff();
    image.addEventListener("load", () => {
      missing--;
      painters.forEach((arrived) => arrived());
    }, { once: true });
    image.addEventListener("error", () => setTimeout(() => (image!.src = src), pauses.next()));
    image.src = src;
    images.set(src, image);
  }

  return image.complete && image.naturalWidth > 0 ? image : null;
}
