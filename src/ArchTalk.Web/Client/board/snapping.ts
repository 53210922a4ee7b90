// Where a moved item comes to rest: at the edges and centres of the others and of the board, and at equal distances. Nothing
// here touches the page.

export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A line that shows why an item rests where it does. */
export interface Guide {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
}

export interface Snap {
  dx: number;
  dy: number;
  guides: Guide[];
}

interface Candidate {
  by: number;
  guides: Guide[];
}

/** How far a box must still be moved to rest, and the guides to show; nothing beyond the reach. All in board units. */
export function snap(box: Box, others: Box[], board: { width: number; height: number }, reach: number): Snap {
  const whole = { x: 0, y: 0, ...board };
  const across = nearest([...lines(box, [...others, whole], false), ...spaces(box, others, false)], reach);
  const down = nearest([...lines(turned(box), [...others, whole].map(turned), true), ...spaces(turned(box), others.map(turned), true)], reach);
  return { dx: across?.by ?? 0, dy: down?.by ?? 0, guides: [...(across?.guides ?? []), ...(down?.guides ?? [])] };
}

function nearest(candidates: Candidate[], reach: number): Candidate | undefined {
  return candidates.filter((c) => Math.abs(c.by) <= reach).sort((a, b) => Math.abs(a.by) - Math.abs(b.by))[0];
}

// Left edge, centre and right edge against those of every other.
function lines(box: Box, others: Box[], isTurned: boolean): Candidate[] {
  const own = [box.x, box.x + box.width / 2, box.x + box.width];
  return others.flatMap((other) =>
    [other.x, other.x + other.width / 2, other.x + other.width].flatMap((line) =>
      own.map((edge) => ({
        by: line - edge,
        guides: [guide(line, Math.min(box.y, other.y), line, Math.max(box.y + box.height, other.y + other.height), isTurned)],
      })),
    ),
  );
}

// As far from the last as the last is from the one before, on either side or between two; only with those level with the box.
function spaces(box: Box, others: Box[], isTurned: boolean): Candidate[] {
  const level = others.filter((o) => o.y < box.y + box.height && box.y < o.y + o.height).sort((a, b) => a.x - b.x);
  const candidates: Candidate[] = [];
  const y = box.y + box.height / 2;
  for (let i = 0; i + 1 < level.length; i++) {
    const [left, right] = [level[i]!, level[i + 1]!];
    const gap = right.x - (left.x + left.width);
    const shown = guide(left.x + left.width, y, right.x, y, isTurned);
    if (gap > 0) {
      const after = right.x + right.width + gap;
      candidates.push({ by: after - box.x, guides: [shown, guide(right.x + right.width, y, after, y, isTurned)] });
      const before = left.x - gap;
      candidates.push({ by: before - (box.x + box.width), guides: [shown, guide(before, y, left.x, y, isTurned)] });
    }

    if (gap >= box.width) {
      const middle = left.x + left.width + (gap - box.width) / 2;
      candidates.push({
        by: middle - box.x,
        guides: [guide(left.x + left.width, y, middle, y, isTurned), guide(middle + box.width, y, right.x, y, isTurned)],
      });
    }
  }

  return candidates;
}

function turned(box: Box): Box {
  return { x: box.y, y: box.x, width: box.height, height: box.width };
}

function guide(x1: number, y1: number, x2: number, y2: number, isTurned: boolean): Guide {
  return isTurned ? { x1: y1, y1: x1, x2: y2, y2: x2 } : { x1, y1, x2, y2 };
}
