import type { Box } from '../geometry/box';
import { squaredDistances } from './distance';

/** A coarse look at what is to be seen: 255 where something is. Rows from the top. */
export interface Presence {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** Labels 1 … n of connected parts (neighbours touch at sides or corners), 0 where nothing is. */
function connected(solid: Uint8Array, width: number, height: number): { labels: Int32Array; count: number } {
  const labels = new Int32Array(solid.length);
  let count = 0;
  const stack: number[] = [];
  for (let start = 0; start < solid.length; start++) {
    if (!solid[start] || labels[start]) continue;
    labels[start] = ++count;
    stack.push(start);
    while (stack.length) {
      const i = stack.pop()!;
      const x = i % width;
      const y = (i / width) | 0;
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const [nx, ny] = [x + dx, y + dy];
          if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue;
          const n = ny * width + nx;
          if (solid[n] && !labels[n]) {
            labels[n] = count;
            stack.push(n);
          }
        }
    }
  }
  return { labels, count };
}

interface Group {
  box: Box;
  area: number;
}

/** The least distance between two boxes, 0 where they meet. */
const apart = (a: Box, b: Box) =>
  Math.hypot(
    Math.max(0, a.x - b.x - b.width, b.x - a.x - a.width),
    Math.max(0, a.y - b.y - b.height, b.y - a.y - a.height),
  );

function boxesOf(labels: Int32Array, count: number, solid: Uint8Array, width: number): Group[] {
  const edges = Array.from({ length: count }, () => ({ x0: Infinity, y0: Infinity, x1: -1, y1: -1, area: 0 }));
  for (let i = 0; i < labels.length; i++) {
    // Only what is really there counts, not the room that was grown around it.
    if (!labels[i] || !solid[i]) continue;
    const e = edges[labels[i]! - 1]!;
    const x = i % width;
    const y = (i / width) | 0;
    e.x0 = Math.min(e.x0, x);
    e.x1 = Math.max(e.x1, x);
    e.y0 = Math.min(e.y0, y);
    e.y1 = Math.max(e.y1, y);
    e.area++;
  }
  return edges
    .filter((e) => e.area > 0)
    .map((e) => ({ box: { x: e.x0, y: e.y0, width: e.x1 - e.x0 + 1, height: e.y1 - e.y0 + 1 }, area: e.area }));
}

/**
 * The parts of a drawing that belong together by nearness, as boxes in shares of its size, in reading order.
 * Gaps as wide as those between letters are bridged: the widest gap that, bridged, still leaves two parts or more,
 * and no more than six. One part where nothing stands apart.
 */
export function partsOf(seen: Presence): Box[] {
  const { width, height } = seen;
  const solid = Uint8Array.from(seen.data, (a) => (a > 64 ? 1 : 0));
  const distances = squaredDistances(solid, width, height);
  const long = Math.max(width, height);
  let found: Group[] = [];
  // From wide gaps to narrow ones: the first that leaves several parts is the one that separates them best.
  for (let reach = long / 6; reach >= 1; reach *= 0.8) {
    const grown = Uint8Array.from(distances, (d) => (d <= (reach / 2) ** 2 ? 1 : 0));
    const { labels, count } = connected(grown, width, height);
    const groups = merged(boxesOf(labels, count, solid, width));
    if (groups.length >= 2 && groups.length <= 6) {
      found = groups;
      break;
    }
    if (!found.length) found = groups;
  }
  const rows = [...found].sort((a, b) =>
    Math.abs(a.box.y + a.box.height / 2 - b.box.y - b.box.height / 2) > Math.max(a.box.height, b.box.height) / 2
      ? a.box.y - b.box.y
      : a.box.x - b.box.x,
  );
  return rows.map(({ box }) => ({
    x: box.x / width,
    y: box.y / height,
    width: box.width / width,
    height: box.height / height,
  }));
}

/** Groups whose boxes overlap are one: a part is a rectangle of the picture, which must hold nothing of another. */
function merged(groups: Group[]): Group[] {
  const list = groups.map((g) => ({ ...g }));
  for (let i = 0; i < list.length; i++)
    for (let j = i + 1; j < list.length; j++)
      if (apart(list[i]!.box, list[j]!.box) === 0) {
        const [a, b] = [list[i]!.box, list[j]!.box];
        const x = Math.min(a.x, b.x);
        const y = Math.min(a.y, b.y);
        list[i] = {
          area: list[i]!.area + list[j]!.area,
          box: {
            x,
            y,
            width: Math.max(a.x + a.width, b.x + b.width) - x,
            height: Math.max(a.y + a.height, b.y + b.height) - y,
          },
        };
        list.splice(j, 1);
        i = -1;
        break;
      }
  return list;
}

/** What two parts of a logo are called: the squarer one is its mark, the long one its wordmark. */
export function partNames(parts: readonly Box[], size: { width: number; height: number }, name: string): string[] {
  if (parts.length !== 2) return parts.map((_, i) => `${name}, part ${i + 1}`);
  const long = parts.map((p) => {
    const r = (p.width * size.width) / (p.height * size.height);
    return Math.max(r, 1 / r);
  });
  return long[0]! <= long[1]! ? ['Mark', 'Wordmark'] : ['Wordmark', 'Mark'];
}
