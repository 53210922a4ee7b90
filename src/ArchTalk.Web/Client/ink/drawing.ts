// Shows what the server drew: shapes in board units. On a canvas for playing and recording, as SVG where items are edited.

import { pictureAt } from "./item-pictures";

export interface PathShape {
  is: "path";
  d: string;
  fill: string | null;
  stroke: string | null;
  strokeWidth: number;
  dash: number;
  transform: number[] | null;
}

export interface TextShape {
  is: "text";
  text: string;
  x: number;
  y: number;
  size: number;
  fill: string;
  anchor: "start" | "middle" | "end";
  isBold: boolean;
  isRightToLeft: boolean;
  language: string | null;
}

/** A picture that fills its box: what is cut out of it, turned by quarters clockwise. */
export interface PictureShape {
  is: "picture";
  src: string;
  width: number;
  height: number;
  crop: { x: number; y: number; width: number; height: number };
  turn: number;
}

export type Shape = PathShape | TextShape | PictureShape;

export interface PlacedDrawing {
  id: string;
  x: number;
  y: number;
  drawing: { width: number; height: number; shapes: Shape[] };
  /** Whether it can be lifted. */
  isCover: boolean;
}

/** As Media's Faces has them, so that writing is as wide as it was measured wherever these faces are installed. */
export const family = ["Atkinson", "Noto Sans", ...[
  "Arabic", "Hebrew", "Devanagari", "Thai", "Bengali", "Tamil", "Armenian", "Georgian", "Ethiopic", "CJK JP",
].map((script) => `Noto Sans ${script}`)].map((face) => `"${face}"`).join(", ") + ", sans-serif";
const svgSpace = "http://www.w3.org/2000/svg";
const anchors = { start: "start", middle: "center", end: "end" } as const;
const outlines = new WeakMap<PathShape, Path2D>();

/** Resolves when the faces that drawings use are there. */
export async function fontsReady(): Promise<void> {
  await Promise.all([document.fonts.load(`400 40px ${family}`), document.fonts.load(`700 40px ${family}`)]);
}

/** Paints a drawing; the context's unit must be a board unit. */
export function paintDrawing(context: CanvasRenderingContext2D, placed: PlacedDrawing): void {
  context.save();
  context.translate(placed.x, placed.y);
  for (const shape of placed.drawing.shapes) {
    if (shape.is === "path") {
      paintPath(context, shape);
    } else if (shape.is === "text") {
      paintText(context, shape);
    } else {
      paintPicture(context, shape);
    }
  }

  context.restore();
}

function paintPath(context: CanvasRenderingContext2D, shape: PathShape): void {
  let outline = outlines.get(shape);
  if (!outline) {
    outline = new Path2D(shape.d);
    outlines.set(shape, outline);
  }

  context.save();
  if (shape.transform) {
    const [a, b, c, d, e, f] = shape.transform as [number, number, number, number, number, number];
    context.transform(a, b, c, d, e, f);
  }

  if (shape.fill) {
    context.fillStyle = shape.fill;
    context.fill(outline);
  }

  if (shape.stroke) {
    context.strokeStyle = shape.stroke;
    context.lineWidth = shape.strokeWidth;
    context.lineCap = "butt";
    context.setLineDash(shape.dash > 0 ? [shape.dash] : []);
    context.stroke(outline);
  }

  context.restore();
}

function paintPicture(context: CanvasRenderingContext2D, shape: PictureShape): void {
  const image = pictureAt(shape.src);
  if (!image) {
    return;
  }

  const { crop } = shape;
  const [width, height] = shape.turn % 2 === 1 ? [shape.height, shape.width] : [shape.width, shape.height];
  context.save();
  context.translate(shape.width / 2, shape.height / 2);
  context.rotate((shape.turn * Math.PI) / 2);
  context.imageSmoothingQuality = "high";
  context.drawImage(
    image,
    crop.x * image.naturalWidth, crop.y * image.naturalHeight, crop.width * image.naturalWidth, crop.height * image.naturalHeight,
    -width / 2, -height / 2, width, height,
  );
  context.restore();
}

function paintText(context: CanvasRenderingContext2D, shape: TextShape): void {
  context.font = `${shape.isBold ? 700 : 400} ${shape.size}px ${family}`;
  context.direction = shape.isRightToLeft ? "rtl" : "ltr";
  context.textAlign = anchors[shape.anchor];
  context.textBaseline = "alphabetic";
  context.fillStyle = shape.fill;
  context.fillText(shape.text, shape.x, shape.y);
}

/** The drawing as a group of SVG elements, placed on its board. */
export function toSvg(placed: PlacedDrawing): SVGGElement {
  const group = element("g", { transform: `translate(${placed.x} ${placed.y})` }) as SVGGElement;
  for (const shape of placed.drawing.shapes) {
    group.append(shape.is === "path" ? pathElement(shape) : shape.is === "text" ? textElement(shape) : pictureElement(shape));
  }

  return group;
}

function pathElement(shape: PathShape): SVGElement {
  return element("path", {
    d: shape.d,
    fill: shape.fill ?? "none",
    ...(shape.stroke ? { stroke: shape.stroke, "stroke-width": shape.strokeWidth } : {}),
    ...(shape.dash > 0 ? { "stroke-dasharray": shape.dash } : {}),
    ...(shape.transform ? { transform: `matrix(${shape.transform.join(" ")})` } : {}),
  });
}

// The whole picture lies so that what is cut out of it fills the box; the rule of SvgDrawing in C#.
function pictureElement(shape: PictureShape): SVGElement {
  const { crop } = shape;
  const [width, height] = shape.turn % 2 === 1 ? [shape.height, shape.width] : [shape.width, shape.height];
  const outer = element("svg", { width: shape.width, height: shape.height });
  const turned = element("g", { transform: `rotate(${shape.turn * 90} ${shape.width / 2} ${shape.height / 2})` });
  const part = element("svg", { x: (shape.width - width) / 2, y: (shape.height - height) / 2, width, height });
  part.append(element("image", {
    href: shape.src, x: (-crop.x / crop.width) * width, y: (-crop.y / crop.height) * height, width: width / crop.width, height: height / crop.height,
    preserveAspectRatio: "none",
  }));
  turned.append(part);
  outer.append(turned);
  return outer;
}

function textElement(shape: TextShape): SVGElement {
  const text = element("text", {
    x: shape.x,
    y: shape.y,
    "font-size": shape.size,
    fill: shape.fill,
    "text-anchor": shape.anchor,
    ...(shape.isBold ? { "font-weight": 700 } : {}),
    ...(shape.isRightToLeft ? { direction: "rtl" } : {}),
    ...(shape.language ? { lang: shape.language } : {}),
  });
  text.style.whiteSpace = "pre";
  text.textContent = shape.text;
  return text;
}

/** An SVG element with attributes. */
export function element(name: string, attributes: Record<string, string | number>): SVGElement {
  const made = document.createElementNS(svgSpace, name);
  for (const [key, value] of Object.entries(attributes)) {
    made.setAttribute(key, String(value));
  }

  return made;
}
