// Paints a scene on a canvas. Finished strokes and the board's picture are kept in one cached layer; while nothing but the
// tip of the pen moves, only that is drawn anew.

import { boardWidth, type Picture, type Stroke, type Style, type View, type VisibleStroke } from "../timeline/timeline";
import { type PlacedDrawing, fontsReady, paintDrawing } from "./drawing";
import { outline, tipAt } from "./outline";

export interface PaintedScene {
  boardId: string;
  pictures: Picture[];
  /** Over the picture and under the ink, from back to front. */
  items: PlacedDrawing[];
  /** Covers among them that are lifted. */
  uncovered: string[];
  /** In units. */
  height: number;
  view: View;
  strokes: VisibleStroke[];
  pointer: { x: number; y: number } | null;
}

const paper = "#FFFFFF";
const pointerColor = "#B3261E";
const trailMs = 450;

export class Painter {
  private readonly context: CanvasRenderingContext2D;
  private readonly layer = document.createElement("canvas");
  private readonly layerContext: CanvasRenderingContext2D;
  private layerKey = "";
  private layerStrokes: Stroke[] = [];
  private layerItems: PlacedDrawing[] = [];
  private readonly paths = new WeakMap<Stroke, { path: Path2D; count: number }>();
  private trail: { x: number; y: number; at: number }[] = [];

  /** @param changed Called when a picture has arrived and the scene should be painted again. */
  constructor(
    readonly canvas: HTMLCanvasElement,
    private readonly pictures: PictureStore,
    private readonly changed: () => void,
  ) {
    this.context = canvas.getContext("2d")!;
    this.layerContext = this.layer.getContext("2d")!;
    void fontsReady().then(() => {
      this.layerKey = "";
      this.changed();
    });
  }

  /** Fits the canvas to its place on the page; true when its size changed. */
  resize(): boolean {
    const ratio = window.devicePixelRatio || 1;
    const width = Math.max(1, Math.round(this.canvas.clientWidth * ratio));
    const height = Math.max(1, Math.round(this.canvas.clientHeight * ratio));
    if (this.canvas.width === width && this.canvas.height === height) {
      return false;
    }

    this.canvas.width = this.layer.width = width;
    this.canvas.height = this.layer.height = height;
    this.layerKey = "";
    return true;
  }

  /** @param ms The lesson's time, for how far the pen's tip has come. */
  paint(scene: PaintedScene, ms: number): void {
    const finished: Stroke[] = [];
    const moving: VisibleStroke[] = [];
    for (const visible of scene.strokes) {
      if (visible.count * 4 >= visible.stroke.points.length) {
        finished.push(visible.stroke);
      } else {
        moving.push(visible);
      }
    }

    const scale = this.canvas.width / scene.view.width;
    this.updateLayer(scene, scale, finished);
    this.context.setTransform(1, 0, 0, 1, 0, 0);
    this.context.drawImage(this.layer, 0, 0);
    place(this.context, scene.view, scale);
    for (const visible of moving) {
      const path = new Path2D();
      outline(path, visible.stroke.style, visible.stroke.points, visible.count, tipAt(visible.stroke.points, visible.count, ms));
      fill(this.context, visible.stroke.style, path);
    }

    this.paintPointer(scene, performance.now());
  }

  /** Whether the pointer's trail is still fading, so that painting must go on. */
  get isFading(): boolean {
    return this.trail.length > 0;
  }

  private updateLayer(scene: PaintedScene, scale: number, finished: Stroke[]): void {
    const picture = this.pictures.best(scene.pictures, boardWidth * scale, this.changed);
    const key = `${scene.boardId} ${scene.height} ${scene.view.x} ${scene.view.y} ${scene.view.width} ${picture?.src ?? ""} ${scene.uncovered.join(" ")}`;
    const grows = key === this.layerKey && scene.items === this.layerItems && finished.length >= this.layerStrokes.length && this.layerStrokes.every((s, i) => s === finished[i]);
    const context = this.layerContext;
    if (!grows) {
      this.layerKey = key;
      this.layerStrokes = [];
      this.layerItems = scene.items;
      context.setTransform(1, 0, 0, 1, 0, 0);
      context.fillStyle = paper;
      context.fillRect(0, 0, this.layer.width, this.layer.height);
      if (picture) {
        drawPicture(context, picture, scene, scale);
      }

      place(context, scene.view, scale * 10, 0.1);
      scene.items.filter((item) => !scene.uncovered.includes(item.id)).forEach((item) => paintDrawing(context, item));
    }

    place(context, scene.view, scale);
    for (const stroke of finished.slice(this.layerStrokes.length)) {
      fill(context, stroke.style, this.pathOf(stroke));
    }

    this.layerStrokes = finished;
  }

  private pathOf(stroke: Stroke): Path2D {
    const count = stroke.points.length / 4;
    let known = this.paths.get(stroke);
    if (known?.count !== count) {
      known = { path: new Path2D(), count };
      outline(known.path, stroke.style, stroke.points, count, null);
      this.paths.set(stroke, known);
    }

    return known.path;
  }

  private paintPointer(scene: PaintedScene, now: number): void {
    if (scene.pointer) {
      const last = this.trail.at(-1);
      if (!last || last.x !== scene.pointer.x || last.y !== scene.pointer.y) {
        this.trail.push({ ...scene.pointer, at: now });
      } else {
        last.at = now;
      }
    }

    this.trail = this.trail.filter((p) => now - p.at < trailMs);
    const context = this.context;
    const size = scene.view.width / 160;
    context.lineCap = "round";
    context.strokeStyle = pointerColor;
    for (let i = 1; i < this.trail.length; i++) {
      const from = this.trail[i - 1]!;
      const to = this.trail[i]!;
      context.globalAlpha = 0.55 * (1 - (now - from.at) / trailMs);
      context.lineWidth = size * 0.7;
      context.beginPath();
      context.moveTo(from.x, from.y);
      context.lineTo(to.x, to.y);
      context.stroke();
    }

    context.globalAlpha = 1;
    if (scene.pointer) {
      context.beginPath();
      context.arc(scene.pointer.x, scene.pointer.y, size * 0.75, 0, Math.PI * 2);
      context.fillStyle = pointerColor;
      context.fill();
      context.lineWidth = size * 0.25;
      context.strokeStyle = paper;
      context.stroke();
    }
  }
}

/** Loads the copies of pictures as they are needed and gives the best one that is there. */
export class PictureStore {
  private readonly images = new Map<string, HTMLImageElement>();

  /** @param pixels How many pixels the whole board's width takes on the screen. */
  best(pictures: Picture[], pixels: number, arrived: () => void): HTMLImageElement | null {
    if (pictures.length === 0) {
      return null;
    }

    const wanted = pictures.find((p) => p.width >= pixels * 0.8) ?? pictures.at(-1)!;
    const image = this.load(wanted.src, arrived);
    if (isThere(image)) {
      return image;
    }

    // Meanwhile any other copy will do, the largest first; the smallest comes quickly.
    this.load(pictures[0]!.src, arrived);
    const others = pictures.map((p) => this.images.get(p.src)).filter((i) => i !== undefined);
    return others.findLast(isThere) ?? null;
  }

  private load(src: string, arrived: () => void): HTMLImageElement {
    let image = this.images.get(src);
    if (!image) {
      image = new Image();
      image.decoding = "async";
      image.addEventListener("load", arrived);
      image.src = src;
      this.images.set(src, image);
    }

    return image;
  }
}

function isThere(image: HTMLImageElement): boolean {
  return image.complete && image.naturalWidth > 0;
}

/** @param perTenth How many of the context's units a tenth of a board unit is. */
function place(context: CanvasRenderingContext2D, view: View, scale: number, perTenth = 1): void {
  context.setTransform(scale, 0, 0, scale, -view.x * scale * perTenth, -view.y * scale * perTenth);
}

function drawPicture(context: CanvasRenderingContext2D, image: HTMLImageElement, scene: PaintedScene, scale: number): void {
  const perUnit = image.naturalWidth / boardWidth;
  const height = Math.min(scene.height * 10, image.naturalHeight / perUnit);
  const visible = Math.min(height - scene.view.y, context.canvas.height / scale);
  if (visible > 0) {
    context.imageSmoothingQuality = "high";
    context.drawImage(
      image,
      scene.view.x * perUnit, scene.view.y * perUnit, scene.view.width * perUnit, visible * perUnit,
      0, 0, context.canvas.width, visible * scale,
    );
  }
}

// A highlighter darkens what is under it, so that writing stays readable through it.
function fill(context: CanvasRenderingContext2D, style: Style, path: Path2D): void {
  context.globalCompositeOperation = style.tool === "highlighter" ? "multiply" : "source-over";
  context.fillStyle = style.color;
  context.fill(path);
  context.globalCompositeOperation = "source-over";
}
