// What lies over a board without being of it: the pointer with its trail, and the dark around what is lit up.

import type { Pane } from "../scene/scene";
import { trailMs } from "../scene/scene";
import { type Frame, placeAt } from "./raster";

const pointerColor = "#B3261E";
const rim = "#FFFFFF";
const dimness = "rgba(20, 28, 29, 0.62)";

/** The pointer's radius: a share of what is seen, and on a phone never less than so many CSS pixels. */
const share = 0.0047;
const leastRadiusPx = 6;

export class Overlay {
  readonly canvas = document.createElement("canvas");
  private readonly context = this.canvas.getContext("2d")!;
  private isEmpty = true;

  constructor(below: HTMLCanvasElement) {
    this.canvas.className = "stage-overlay";
    this.canvas.setAttribute("aria-hidden", "true");
    below.after(this.canvas);
  }

  resize(width: number, height: number): void {
    this.canvas.width = width;
    this.canvas.height = height;
    this.isEmpty = true;
  }

  // All of the board but what is lit up.
  private dim({ light }: Pane, frame: Frame): void {
    if (!light) {
      return;
    }

    const { context, canvas } = this;
    this.isEmpty = false;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.fillStyle = dimness;
    context.fillRect(0, 0, canvas.width, canvas.height);
    placeAt(context, frame);
    context.beginPath();
    for (let i = 0; i + 1 < light.length; i += 2) {
      context.lineTo(light[i]!, light[i + 1]!);
    }

    context.closePath();
    context.globalCompositeOperation = "destination-out";
    context.fillStyle = rim;
    context.fill();
    context.globalCompositeOperation = "source-over";
  }

  /** Shows the pointer and the light of a pane. */
  paint(pane: Pane, frame: Frame): void {
    const { context } = this;
    if (!this.isEmpty) {
      context.setTransform(1, 0, 0, 1, 0, 0);
      context.clearRect(0, 0, this.canvas.width, this.canvas.height);
      this.isEmpty = true;
    }

    this.dim(pane, frame);
    if (!pane.pointer) {
      return;
    }

    const { x, y, trail } = pane.pointer;
    const perPixel = (pane.view.width * devicePixelRatio) / this.canvas.width;
    const radius = Math.max(pane.view.width * share, leastRadiusPx * perPixel);
    this.isEmpty = false;
    placeAt(context, frame);
    context.lineCap = "round";
    context.strokeStyle = pointerColor;
    context.lineWidth = radius * 0.9;
    for (let i = 1; i < trail.length; i++) {
      context.globalAlpha = 0.55 * Math.max(0, 1 - trail[i - 1]!.age / trailMs);
      context.beginPath();
      context.moveTo(trail[i - 1]!.x, trail[i - 1]!.y);
      context.lineTo(trail[i]!.x, trail[i]!.y);
      context.stroke();
    }

    context.globalAlpha = 1;
    context.beginPath();
    context.arc(x, y, radius, 0, Math.PI * 2);
    context.fillStyle = pointerColor;
    context.fill();
    context.lineWidth = radius * 0.33;
    context.strokeStyle = rim;
    context.stroke();
  }
}
