// Paints scenes on a canvas in three layers: what rests (in tiles), the strokes being drawn (whole, in every frame), and over
// both, on a canvas of its own, what only moves. It paints when it is asked to and asks for more only while something is left
// to do, so a page at rest paints nothing.

import { fontsReady } from "./drawing";
import { arePicturesThere, onPictures } from "./item-pictures";
import { outline } from "./outline";
import { Overlay } from "./overlay";
import { PictureStore } from "./picture-store";
import { fillInk, type Frame, placeAt } from "./raster";
import { Tiles } from "./tiles";
import { boardWidth, type GrowingStroke, type Pane, sameView, type Scene } from "../scene/scene";

export class Painter {
  private readonly context: CanvasRenderingContext2D;
  private readonly tiles = new Tiles();
  private readonly overlay: Overlay;
  private readonly pictures: PictureStore;
  private shown: { pane: Pane; picture: HTMLImageElement | null } | null = null;
  private frame = 0;
  /** A single pixel, to read colours from. */
  private probe: CanvasRenderingContext2D | null = null;

  /**
   * @param canvas Its size on the page is the view's.
   * @param scene Gives the scene as it is now; asked at the beginning of each frame that is painted.
   * @param painted Called after a frame was painted; it may ask for the next.
   */
  constructor(
    readonly canvas: HTMLCanvasElement,
    private readonly scene: () => Scene | null,
    private readonly painted: (pane: Pane) => void = () => undefined,
  ) {
    this.context = canvas.getContext("2d", { alpha: false })!;
    this.overlay = new Overlay(canvas);
    this.pictures = new PictureStore(() => this.repaint());
    onPictures(() => this.paintAnew());
    new ResizeObserver(() => this.repaint()).observe(canvas);
    void fontsReady().then(() => this.paintAnew());
  }

  // What items look like has changed without any change of the scene.
  private paintAnew(): void {
    this.tiles.forget();
    this.shown = null;
    this.repaint();
  }

  /** Asks for a frame; as often as one likes. */
  repaint(): void {
    if (this.frame === 0) {
      this.frame = requestAnimationFrame(() => this.paint());
    }
  }

  /** Loads the picture of a board that will be shown soon. */
  prepare(pictures: Pane["ground"]["pictures"], viewWidth = boardWidth): void {
    this.pictures.best(pictures, (boardWidth * this.canvas.width) / viewWidth);
  }

  /** Whether some copy of a board's picture is there. */
  hasPicture(pictures: Pane["ground"]["pictures"]): boolean {
    return this.pictures.has(pictures);
  }

  /**
   * The colours (red, green, blue) of a board's picture at places (tenths of a unit); paper where there is none. The canvas itself isn't
   * read: browsers take one that is for slow ever after.
   */
  coloursAt(pictures: Pane["ground"]["pictures"], places: readonly (readonly [number, number])[]): [number, number, number][] {
    const picture = this.pictures.best(pictures, 0);
    const perTenth = (picture?.naturalWidth ?? 0) / boardWidth;
    const canvas = () => Object.assign(document.createElement("canvas"), { width: 1, height: 1 });
    const probe = (this.probe ??= canvas().getContext("2d", { willReadFrequently: true })!);
    probe.fillStyle = "#FFFFFF";
    return places.map(([x, y]) => {
      probe.fillRect(0, 0, 1, 1);
      if (picture && x >= 0 && y >= 0) {
        probe.drawImage(picture, x * perTenth, y * perTenth, 1, 1, 0, 0, 1, 1);
      }

      const [red, green, blue] = probe.getImageData(0, 0, 1, 1).data;
      return [red!, green!, blue!];
    });
  }

  /** Whether a picture could not be loaded and is tried again. */
  get lacksPicture(): boolean {
    return this.pictures.isMissing;
  }

  private paint(): void {
    this.frame = 0;
    this.fit();
    const pane = this.scene()?.panes[0];
    if (!pane) {
      return;
    }

    const frame = this.frameOf(pane);
    const isResting = this.paintBoard(pane, frame);
    this.overlay.paint(pane, frame);
    this.painted(pane);
    if (!isResting) {
      this.repaint();
    }
  }

  // The view begins on a whole pixel, so that tiles lie sharp and ink stays where it is when it becomes part of them.
  private frameOf(pane: Pane): Frame {
    const scale = this.canvas.width / pane.view.width;
    return { left: Math.round(pane.view.x * scale), top: Math.round(pane.view.y * scale), scale };
  }

  /** True when nothing is left to be done for it. */
  private paintBoard(pane: Pane, frame: Frame): boolean {
    const picture = this.pictures.best(pane.ground.pictures, boardWidth * frame.scale);
    const before = this.shown;
    if (before && before.picture === picture && isSame(before.pane, pane)) {
      return true;
    }

    const isStill = before !== null && isAlike(before.pane, pane);
    const isComplete = this.tiles.paint(this.context, pane, picture, frame, isStill);
    placeAt(this.context, frame);
    pane.growing.forEach((growing) => this.paintGrowing(growing));
    this.shown = isComplete ? { pane, picture } : null;
    this.tell(isComplete && arePicturesThere());
    return isComplete;
  }

  // Whoever measures or compares pictures can wait for a whole one.
  private tell(isWhole: boolean): void {
    const word = isWhole ? "whole" : "partly";
    if (this.canvas.dataset["painted"] !== word) {
      this.canvas.dataset["painted"] = word;
    }
  }

  private paintGrowing({ stroke, count, tip }: GrowingStroke): void {
    const path = new Path2D();
    outline(path, stroke.style, stroke.points, count, tip);
    fillInk(this.context, stroke.style, path);
  }

  private fit(): void {
    const ratio = window.devicePixelRatio || 1;
    const width = Math.max(1, Math.round(this.canvas.clientWidth * ratio));
    const height = Math.max(1, Math.round(this.canvas.clientHeight * ratio));
    if (this.canvas.width !== width || this.canvas.height !== height) {
      this.canvas.width = width;
      this.canvas.height = height;
      this.overlay.resize(width, height);
      this.shown = null;
    }
  }
}

// Whether a board looks as it did; the pointer lies on the overlay.
function isSame(a: Pane, b: Pane): boolean {
  return isAlike(a, b) && a.finished === b.finished && a.texts === b.texts && a.height === b.height && a.hidden.join() === b.hidden.join();
}

// Whether the same board is seen through the same view, with nothing being drawn over its tiles.
function isAlike(a: Pane, b: Pane): boolean {
  return a.ground === b.ground && sameView(a.view, b.view) && a.growing.length === 0 && b.growing.length === 0;
}
