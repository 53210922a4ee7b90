// Keeps what rests on boards in square tiles, so that sliding shows what is there already and a change touches only the tiles
// it meets. Work is bounded in each frame; what isn't ready is shown from another size of the same board, or as bare ground.

import type { Frame } from "./raster";
import { drawGround, drawResting, drawStroke } from "./raster";
import { joined, meets, piecesOf } from "./stroke-shape";
import type { Box, Pane, Stroke, TypedText } from "../scene/scene";

const tileSize = 256;

/** About 77 MB of pixels. */
const mostTiles = 300;

/** How much is drawn in one frame, counted in points of ink: about 8 ms on a slow laptop; a tile's ground counts as many. */
const workInFrame = 4000;
const groundWork = 400;

/** A tile's damage is kept as up to so many boxes. */
const mostDamages = 48;

interface Tile {
  column: number;
  row: number;
  context: CanvasRenderingContext2D;
  isPainted: boolean;
  /** It was changed since it was last shown. */
  isNew: boolean;
  /** What of it no longer holds, in tenths of a board unit. */
  damage: Box[];
}

/** The tiles of one board at one size. */
interface TileSet {
  scale: number;
  tiles: Map<string, Tile>;
}

interface Raster {
  pane: Pane;
  picture: HTMLImageElement | null;
  sets: TileSet[];
  usedAt: number;
}

export class Tiles {
  private readonly rasters = new Map<string, Raster>();
  private clock = 0;
  private lastWidth = 0;

  /** Throws all away: letters are drawn differently from now on. */
  forget(): void {
    this.rasters.clear();
  }

  /**
   * Shows what rests in the pane. Gives back whether all of it is there as it should be; if not, it is to be painted again in
   * the next frame. `frame.left` and `frame.top` must be whole. With `isStill` the context shows all of it already, but for what
   * has changed since.
   */
  paint(context: CanvasRenderingContext2D, pane: Pane, picture: HTMLImageElement | null, frame: Frame, isStill: boolean): boolean {
    const raster = this.update(pane, picture);
    const isClosingIn = pane.view.width !== this.lastWidth;
    this.lastWidth = pane.view.width;
    const current = setAt(raster, frame.scale);
    const others = raster.sets.filter((s) => s !== current && s.tiles.size > 0);

    // While the size changes from frame to frame, tiles of sizes that are only passed through aren't worth drawing.
    let work = isClosingIn && others.length > 0 ? 0 : workInFrame;
    const { width, height } = context.canvas;
    const tiles = placesIn(frame.left, frame.top, width, height).map(([column, row]) => tileAt(current, column, row));
    for (const tile of tiles) {
      if (work > 0) {
        work -= this.refresh(tile, raster, frame.scale);
      }
    }

    if (tiles.every((tile) => !tile.isPainted)) {
      showMeanwhile(context, { x: 0, y: 0, width, height }, raster, others.at(-1), frame);
    } else {
      tiles.forEach((tile) => show(context, tile, raster, others.at(-1), frame, isStill));
    }

    const isComplete = tiles.every((tile) => tile.isPainted && tile.damage.length === 0);
    return this.finish(raster, current, frame, context.canvas, isComplete, work);
  }

  // When all that is seen is there, the tiles around it come next, one a frame; then tiles nobody needs are dropped.
  private finish(raster: Raster, current: TileSet, frame: Frame, canvas: HTMLCanvasElement, isComplete: boolean, work: number): boolean {
    if (!isComplete) {
      return false;
    }

    if (work < workInFrame) {
      return false;
    }

    raster.sets = [current];
    const lastRow = Math.ceil((raster.pane.height * 10 * frame.scale) / tileSize) - 1;
    const lastColumn = Math.ceil((16_000 * frame.scale) / tileSize) - 1;
    const around = placesIn(frame.left - tileSize, frame.top - tileSize, canvas.width + 2 * tileSize, canvas.height + 2 * tileSize);
    for (const [column, row] of around) {
      if (column >= 0 && row >= 0 && column <= lastColumn && row <= lastRow && this.refresh(tileAt(current, column, row), raster, frame.scale) > 0) {
        return false;
      }
    }

    this.dropOldest(current, new Set(around.map(([c, r]) => key(c, r))));
    return true;
  }

  // Takes over what is to be seen now, and notes in the tiles what of them no longer holds.
  private update(pane: Pane, picture: HTMLImageElement | null): Raster {
    const known = this.rasters.get(pane.ground.id);
    if (!known) {
      const made = { pane, picture, sets: [], usedAt: ++this.clock };
      this.rasters.set(pane.ground.id, made);
      return made;
    }

    const before = known.pane;
    known.pane = pane;
    known.usedAt = ++this.clock;
    if (known.picture !== picture || before.ground !== pane.ground || before.height !== pane.height || before.hidden.join() !== pane.hidden.join()) {
      known.picture = picture;
      spoil(known, { left: -Infinity, top: -Infinity, right: Infinity, bottom: Infinity });
    } else {
      if (before.texts !== pane.texts) {
        const [had, kept] = [new Set(before.texts), new Set(pane.texts)];
        [...before.texts.filter((t) => !kept.has(t)), ...pane.texts.filter((t) => !had.has(t))].forEach((t) => spoil(known, roomAround(t)));
      }

      if (before.finished !== pane.finished) {
        this.takeOver(known, before.finished, pane.finished);
      }
    }

    return known;
  }

  private takeOver(raster: Raster, before: readonly Stroke[], after: readonly Stroke[]): void {
    // Mostly strokes were added on top; they are drawn onto the tiles as they are.
    let same = 0;
    while (same < before.length && same < after.length && isSame(before[same]!, after[same]!)) {
      same++;
    }

    if (same === before.length) {
      after.slice(same).forEach((stroke) => addOnTop(raster, stroke));
      return;
    }

    // What begins and ends alike is the same; in between strokes came or went.
    let sameAtEnd = 0;
    while (
      sameAtEnd < Math.min(before.length, after.length) - same &&
      isSame(before[before.length - 1 - sameAtEnd]!, after[after.length - 1 - sameAtEnd]!)
    ) {
      sameAtEnd++;
    }

    const [gone, come] = [before.slice(same, before.length - sameAtEnd), after.slice(same, after.length - sameAtEnd)];
    const [had, kept] = [new Set(gone.map((s) => s.points)), new Set(come.map((s) => s.points))];
    for (const stroke of [...gone.filter((s) => !kept.has(s.points)), ...come.filter((s) => !had.has(s.points))]) {
      piecesOf(stroke).forEach((piece) => spoil(raster, piece));
    }
  }

  /** Draws what is missing of a tile; gives back how much work that was. */
  private refresh(tile: Tile, raster: Raster, scale: number): number {
    const whole = boxOfTile(tile, scale);
    const missing = tile.isPainted ? tile.damage.map((box) => cut(box, whole)) : [whole];
    if (missing.length === 0) {
      return 0;
    }

    const { context } = tile;
    const frame = { left: tile.column * tileSize, top: tile.row * tileSize, scale };
    context.save();
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.beginPath();
    const grown = missing.map((box) => {
      // Whole pixels, so that no seam is left where the old meets the new.
      const [left, top] = [Math.floor(box.left * scale), Math.floor(box.top * scale)];
      const [right, bottom] = [Math.ceil(box.right * scale), Math.ceil(box.bottom * scale)];
      context.rect(left - frame.left, top - frame.top, right - left, bottom - top);
      return { left: left / scale, top: top / scale, right: right / scale, bottom: bottom / scale };
    });
    context.clip();
    const points = drawResting(context, raster.pane, raster.picture, frame, grown);
    context.restore();
    tile.isPainted = tile.isNew = true;
    tile.damage = [];
    return points + groundWork;
  }

  private dropOldest(current: TileSet, near: ReadonlySet<string>): void {
    let count = [...this.rasters.values()].reduce((sum, r) => sum + r.sets.reduce((n, s) => n + s.tiles.size, 0), 0);
    for (const [id, raster] of [...this.rasters].sort(([, a], [, b]) => a.usedAt - b.usedAt)) {
      if (count <= mostTiles) {
        return;
      }

      if (raster.sets.includes(current)) {
        const far = [...current.tiles.keys()].filter((k) => !near.has(k)).slice(0, count - mostTiles);
        far.forEach((k) => current.tiles.delete(k));
        count -= far.length;
      } else {
        count -= raster.sets.reduce((n, s) => n + s.tiles.size, 0);
        this.rasters.delete(id);
      }
    }
  }
}

// Letters reach a little beyond their box.
function roomAround({ box, size }: TypedText): Box {
  const room = size / 4;
  return { left: box.left - room, top: box.top - room, right: box.right + room, bottom: box.bottom + room };
}

function isSame(a: Stroke, b: Stroke): boolean {
  return a === b || a.points === b.points;
}

function setAt(raster: Raster, scale: number): TileSet {
  let set = raster.sets.find((s) => s.scale === scale);
  if (!set) {
    // Sizes that were passed through without a tile are forgotten.
    raster.sets = raster.sets.filter((s) => [...s.tiles.values()].some((t) => t.isPainted));
    set = { scale, tiles: new Map() };
    raster.sets.push(set);
  }

  return set;
}

const key = (column: number, row: number) => `${column} ${row}`;

function tileAt(set: TileSet, column: number, row: number): Tile {
  let tile = set.tiles.get(key(column, row));
  if (!tile) {
    const canvas = document.createElement("canvas");
    canvas.width = canvas.height = tileSize;
    tile = { column, row, context: canvas.getContext("2d", { alpha: false })!, isPainted: false, isNew: true, damage: [] };
    set.tiles.set(key(column, row), tile);
  }

  return tile;
}

function placesIn(left: number, top: number, width: number, height: number): [number, number][] {
  const places: [number, number][] = [];
  for (let row = Math.floor(top / tileSize); row * tileSize < top + height; row++) {
    for (let column = Math.floor(left / tileSize); column * tileSize < left + width; column++) {
      places.push([column, row]);
    }
  }

  return places;
}

function boxOfTile(tile: Tile, scale: number): Box {
  const [left, top, side] = [(tile.column * tileSize) / scale, (tile.row * tileSize) / scale, tileSize / scale];
  return { left, top, right: left + side, bottom: top + side };
}

function cut(box: Box, to: Box): Box {
  return {
    left: Math.max(box.left, to.left),
    top: Math.max(box.top, to.top),
    right: Math.min(box.right, to.right),
    bottom: Math.min(box.bottom, to.bottom),
  };
}

function spoil(raster: Raster, box: Box): void {
  for (const set of raster.sets) {
    for (const tile of set.tiles.values()) {
      if (tile.isPainted && meets(box, boxOfTile(tile, set.scale))) {
        addDamage(tile, box);
      }
    }
  }
}

// A few boxes are kept apart, since their bounds may hold much that is sound; many become one.
function addDamage(tile: Tile, box: Box): void {
  tile.damage = tile.damage.length < mostDamages ? [...tile.damage, box] : [tile.damage.reduce(joined, box)];
}

function addOnTop(raster: Raster, stroke: Stroke): void {
  const box = stroke.box;
  for (const set of raster.sets) {
    for (const tile of set.tiles.values()) {
      // A damaged tile is drawn anew anyway, this stroke with it; but only the damaged part of it.
      if (tile.isPainted && meets(box, boxOfTile(tile, set.scale))) {
        if (tile.damage.length === 0) {
          tile.isNew = true;
          drawStroke(tile.context, stroke, { left: tile.column * tileSize, top: tile.row * tileSize, scale: set.scale });
        } else {
          addDamage(tile, box);
        }
      }
    }
  }
}

function show(context: CanvasRenderingContext2D, tile: Tile, raster: Raster, other: TileSet | undefined, frame: Frame, isStill: boolean): void {
  const [x, y] = [tile.column * tileSize - frame.left, tile.row * tileSize - frame.top];
  if (!tile.isPainted) {
    showMeanwhile(context, { x, y, width: tileSize, height: tileSize }, raster, other, frame);
  } else if (tile.isNew || !isStill) {
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.drawImage(tile.context.canvas, x, y);
    tile.isNew = false;
  }
}

interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}

// In an area of the canvas the bare ground, and over it whatever tiles of another size show of this place.
function showMeanwhile(context: CanvasRenderingContext2D, area: Area, raster: Raster, other: TileSet | undefined, frame: Frame): void {
  const { scale } = frame;
  const [left, top] = [(area.x + frame.left) / scale, (area.y + frame.top) / scale];
  const box = { left, top, right: left + area.width / scale, bottom: top + area.height / scale };
  drawGround(context, raster.pane, raster.picture, frame, box);
  if (!other) {
    return;
  }

  context.save();
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.beginPath();
  context.rect(area.x, area.y, area.width, area.height);
  context.clip();
  for (const old of other.tiles.values()) {
    const place = boxOfTile(old, other.scale);
    if (old.isPainted && meets(place, box)) {
      const [x, y] = [Math.floor(place.left * scale - frame.left), Math.floor(place.top * scale - frame.top)];
      const [right, bottom] = [Math.ceil(place.right * scale - frame.left), Math.ceil(place.bottom * scale - frame.top)];
      context.drawImage(old.context.canvas, x, y, right - x, bottom - y);
    }
  }

  context.restore();
}
