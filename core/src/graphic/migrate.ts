import { clamp } from '../geometry/clamp';
import { gradientEnds } from '../geometry/gradient-line';
import { plainAppearance } from '../pixels/appearance';
import { migrateSlot } from '../slot/slot';
import { plainWordsAppearance } from '../words/appearance';
import { plainBlock } from '../words/words';

interface OldGraphic {
  readonly version?: unknown;
  readonly frames?: unknown;
  readonly layers?: unknown;
  readonly backdrop?: unknown;
  readonly canvas?: unknown;
  readonly export?: unknown;
}

const each = (list: unknown, change: (o: object) => unknown): unknown =>
  Array.isArray(list) ? list.map((o: unknown) => (typeof o === 'object' && o !== null ? change(o) : o)) : list;

/** Version 1: its slots knew less. */
const slotsNow = (old: OldGraphic) => ({
  ...old,
  version: 2,
  frames: each(old.frames, (f) => ('slot' in f ? { ...f, slot: migrateSlot(f.slot) } : f)),
});

/** Version 2: its pictures could be placed and cropped, no more. A covering one's focus was where it stood. */
const picturesNow = (old: OldGraphic) => ({
  ...old,
  version: 3,
  layers: each(old.layers, (l) => {
    if (!('asset' in l)) return l;
    const place = (l as { place?: { focus?: { x: number; y: number } } }).place;
    const within = (n: unknown) => (typeof n === 'number' ? clamp(n, 0, 1) : 0.5);
    const focus = place?.focus ? { x: within(place.focus.x), y: within(place.focus.y) } : plainAppearance.focus;
    return { ...plainAppearance, focus, ...l };
  }),
});

/** Version 3: its words had a face, a size and a colour, no more. */
const wordsNow = (old: OldGraphic) => ({
  ...old,
  version: 4,
  layers: each(old.layers, (l) =>
    'paragraphs' in l
      ? {
          ...plainWordsAppearance,
          ...l,
          paragraphs: each(l.paragraphs, (p) =>
            'runs' in p ? { ...p, runs: each(p.runs, (r) => ({ tracking: 0, case: 'typed', ...r })) } : p,
          ),
        }
      : l,
  ),
});

/** Version 4: its words had no width of their own; its gradients ran straight at an angle, all stops opaque. */
const fillsNow = (old: OldGraphic) => ({
  ...old,
  version: 5,
  layers: each(old.layers, (l) => ('paragraphs' in l ? { ...plainBlock, ...l } : l)),
  backdrop: gradientNow(old.backdrop, old.canvas),
});

/** Version 5: what a file is to be, and its description, stood at the graphic: it had one frame. */
const framesNow = ({ export: choices, ...old }: OldGraphic): OldGraphic => ({
  ...old,
  version: 6,
  frames: each(old.frames, (f) => ({ export: choices, ...f })),
});

/** Version 6: no finding of the fit report had been left. */
const leftNow = (old: OldGraphic): OldGraphic => ({
  ...old,
  version: 7,
  frames: each(old.frames, (f) => ({ left: [], ...f })),
});

/** Version 7: its layers were in no groups. */
const groupsNow = (old: OldGraphic): OldGraphic => ({ ...old, version: 8 });

function gradientNow(backdrop: unknown, canvas: unknown): unknown {
  const b = backdrop as { kind?: unknown; angle?: unknown; stops?: unknown } | null | undefined;
  const size = canvas as { width?: unknown; height?: unknown } | null | undefined;
  if (b?.kind !== 'gradient' || typeof b.angle !== 'number') return backdrop;
  const { width = 1, height = 1 } = size ?? {};
  return {
    kind: 'gradient',
    form: 'linear',
    ...gradientEnds({ width: Number(width), height: Number(height) }, b.angle),
    stops: each(b.stops, (s) => ({ opacity: 1, ...s })),
  };
}

/** A graphic of an earlier version brought up to date; anything else as it came. Nothing is checked here. */
export function migrateGraphic(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  let now: OldGraphic = value;
  if (now.version === 1) now = slotsNow(now);
  if (now.version === 2) now = picturesNow(now);
  if (now.version === 3) now = wordsNow(now);
  if (now.version === 4) now = fillsNow(now);
  if (now.version === 5) now = framesNow(now);
  if (now.version === 6) now = leftNow(now);
  if (now.version === 7) now = groupsNow(now);
  return now;
}
