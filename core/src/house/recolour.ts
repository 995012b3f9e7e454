import type { Change } from '../graphic/edit';
import type { Graphic, Layer } from '../graphic/graphic';

/** Words are no colours, whatever they say. */
const NOT_COLOURS = new Set(['text', 'name', 'id', 'asset', 'data']);

function replaced<T>(value: T, from: string, to: string, key = ''): T {
  if (typeof value === 'string') return (value === from && !NOT_COLOURS.has(key) ? to : value) as T;
  if (Array.isArray(value)) {
    const next = value.map((v: unknown) => replaced(v, from, to, key));
    return (next.some((v, i) => v !== value[i]) ? next : value) as T;
  }
  if (typeof value !== 'object' || value === null) return value;
  let changed = false;
  const next = Object.fromEntries(
    Object.entries(value).map(([k, v]: [string, unknown]) => {
      const n = replaced(v, from, to, k);
      changed ||= n !== v;
      return [k, n];
    }),
  );
  return (changed ? next : value) as T;
}

/** The change that gives a graphic another colour wherever it has one (`#rrggbb`); null where it has none of it. */
export function recolouring(graphic: Graphic, from: string, to: string): Change | null {
  const edits: Change[] = [];
  const backdrop = replaced(graphic.backdrop, from, to);
  if (backdrop !== graphic.backdrop) edits.push({ type: 'set-backdrop', backdrop });
  for (const layer of graphic.layers) {
    const next: Layer = replaced(layer, from, to);
    if (next !== layer) edits.push({ type: 'replace-layer', layer: next });
  }
  return edits.length ? { type: 'together', edits } : null;
}

/** In how many places a graphic has a colour: layers, and its backdrop. */
export function usesOf(graphic: Graphic, colour: string): number {
  const change = recolouring(graphic, colour, `${colour}-`);
  return change?.type === 'together' ? change.edits.length : 0;
}
