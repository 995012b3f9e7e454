import { contrast } from '../colour/contrast';
import { grown, intersection, type Box, type Point } from '../geometry/box';
import { middleOf } from '../geometry/turn';
import type { Derived } from '../graphic/follows';
import type { Layer } from '../graphic/graphic';
import { inkOn } from './look';
import { inkOf, sheet, type Block, type Stage } from './stage';

/** What a layout cannot do without. */
export type Need = 'photo' | 'cutout' | 'logo' | 'title';

/** An arrangement with named places, composed for each slot's shape; null where it has nothing to give there. */
export interface Layout {
  readonly id: string;
  readonly name: string;
  /** What it is called where a slot is too small for words. */
  readonly alone?: string;
  readonly needs: readonly Need[];
  readonly make: (s: Stage) => Derived | null;
}

const ofPaper = (s: Stage, ...layers: (readonly Layer[])[]): Derived => ({
  backdrop: sheet(s.look.paper),
  layers: layers.flat(),
});
const ofLeading = (s: Stage, ...layers: (readonly Layer[])[]): Derived => ({
  backdrop: sheet(s.look.leading),
  layers: layers.flat(),
});
/** What covers the canvas needs no ground; the house's dark shows while it is not there. */
const ofPhoto = (s: Stage, ...layers: (readonly Layer[])[]): Derived => ({
  backdrop: sheet(s.darkest),
  layers: layers.flat(),
});

const layersOf = (block: Block | null): readonly Layer[] => block?.layers ?? [];
const clearOf = (s: Stage, block: Block | null): Box[] => (block ? [grown(block.box, s.margin * 0.5)] : []);
/** Ink on the leading colour. */
const onLeading = (s: Stage) => inkOn([s.look.paper, s.look.ink], s.look.leading);
const boxed = (x: number, y: number, width: number, height: number): Box => ({ x, y, width, height });
const centred = (x: number, y: number, width: number, height: number): Box =>
  boxed(x - width / 2, y - height / 2, width, height);
const square = (x: number, y: number, size: number) => centred(x, y, size, size);
const topRight = { x: 1, y: 0 };
const topLeft = { x: 0, y: 0 };
const footRight = { x: 1, y: 1 };

/** A veil from a side: whole under the words, gone a little further in. */
function sideVeil(s: Stage, block: Block, side: 'left' | 'right' | 'bottom') {
  const { width, height } = s.canvas;
  const { box } = block;
  const soft = Math.min(2000, side === 'bottom' ? height * 0.4 : width * 0.34);
  const pad = block.size * 0.3;
  const far = box.x + box.width + pad;
  const form =
    side === 'left'
      ? { way: 'down' as const, at: -soft, size: far + 2 * soft }
      : side === 'right'
        ? { way: 'down' as const, at: box.x - pad - soft, size: width - box.x + pad + 2 * soft }
        : { way: 'across' as const, at: box.y - pad - soft, size: height - box.y + pad + 2 * soft };
  return s.veil({ kind: 'band', ...form, soft }, inkOf(block));
}

const quiet: Layout = {
  id: 'quiet',
  name: 'Words on the photo',
  alone: 'The photo alone',
  needs: ['photo'],
  make: (s) => {
    if (s.wordless) return ofPhoto(s, s.photo(null));
    const { words, side } = s.halves(s.beside ? 0.56 : 0.5);
    const down = s.beside ? 0.5 : 1;
    const block = s.block(words, { align: 'left', down, ink: s.pale, times: 1.05 });
    if (!block) return null;
    const note = s.note(clearOf(s, block), topRight, s.look.leading, block.size * 0.34);
    return ofPhoto(s, s.photo(block.box), [sideVeil(s, block, side)], note, block.layers);
  },
};

const beside: Layout = {
  id: 'beside',
  name: 'Beside the photo',
  needs: ['photo'],
  make: (s) => {
    if (s.wordless) return null;
    const { words, rest } = s.halves(s.shape === 'strip' ? 0.5 : s.beside ? 0.46 : 0.42);
    const block = s.block(words, { align: 'left', down: 0.5, ink: s.look.ink });
    if (!block) return null;
    const logo = s.logo(
      clearOf(s, block),
      s.beside ? { x: 0, y: 1 } : footRight,
      s.look.paper,
      s.within(words) ?? words,
    );
    return ofPaper(s, s.photoIn(rest), s.rule(block, s.look.leading, 'left'), logo, block.layers);
  },
};

const label: Layout = {
  id: 'label',
  name: 'Paper label',
  needs: ['photo'],
  make: (s) => {
    const { width, height } = s.canvas;
    const share = { strip: 0.5, wide: 0.46, broad: 0.56, square: 0.72, tall: 0.76, round: 0.7 }[s.shape];
    const part = s.beside
      ? boxed(width * (0.5 - share / 2), height * 0.12, width * share, height * 0.76)
      : boxed(width * (0.5 - share / 2), height * 0.42, width * share, height * 0.5);
    const block = s.block(part, {
      align: 'centre',
      down: s.beside ? 0.5 : 0.8,
      ink: s.look.ink,
      lineInk: s.look.ink,
      times: 0.85,
    });
    if (!block) return null;
    const pad = { x: block.size * 0.75, y: block.size * 0.5 };
    const { box } = block;
    const paper = intersection(
      boxed(box.x - pad.x, box.y - pad.y, box.width + 2 * pad.x, box.height + 2 * pad.y),
      s.all,
    )!;
    const line = Math.max(1, block.size * 0.035);
    const edge = { border: { width: line, colour: s.look.leading, style: 'solid' as const } };
    const shadow = { distance: pad.y * 0.1, angle: 90, blur: pad.y * 0.5, colour: '#000000', strength: 0.3 };
    const inner = grown(paper, -Math.min(pad.x, pad.y) * 0.3);
    return ofPhoto(
      s,
      s.photo(paper),
      [
        s.shapeOf('label', 'Label', paper, s.look.paper, { shadow }),
        s.shapeOf('label-line', 'Label’s line', inner, null, edge),
      ],
      block.layers,
    );
  },
};

const band: Layout = {
  id: 'band',
  name: 'Band at the foot',
  needs: ['photo'],
  make: (s) => {
    const { width, height } = s.canvas;
    const size = height * { strip: 0.46, wide: 0.36, broad: 0.3, square: 0.28, tall: 0.24, round: 0.34 }[s.shape];
    const part = boxed(0, height - size, width, size);
    const logoRoom = s.contents.logo && s.beside ? width * 0.24 : 0;
    const words = boxed(0, part.y - s.margin * 0.4, width - logoRoom, size + s.margin * 0.8);
    const align = s.shape === 'round' ? 'centre' : 'left';
    const block = s.block(words, { align, down: 0.5, ink: onLeading(s), line: 0.5 });
    if (!block) return null;
    const logo = s.logo(clearOf(s, block), { x: 1, y: 0.5 }, s.look.leading, part);
    const strip = { place: { mode: 'band' as const, side: 'bottom' as const, size } };
    return ofPhoto(
      s,
      s.photoIn(boxed(0, 0, width, height - size)),
      [s.shapeOf('band', 'Band', part, s.look.leading, strip)],
      logo,
      s.note([part, ...clearOf(s, block)], topLeft, s.look.paper, block.size * 0.4),
      block.layers,
    );
  },
};

const arch: Layout = {
  id: 'arch',
  name: 'Arched window',
  needs: ['photo'],
  make: (s) => {
    const { width, height } = s.canvas;
    const { words, rest } = s.halves(s.shape === 'strip' ? 0.6 : s.beside ? 0.56 : 0.4);
    const block = s.block(words, { align: s.beside ? 'left' : 'centre', down: 0.5, ink: onLeading(s) });
    if (!block && !s.wordless) return null;
    const part = s.wordless ? s.all : rest;
    const w = s.wordless
      ? width * 0.58
      : s.beside
        ? Math.min(part.width * (s.shape === 'strip' ? 0.7 : 0.78), height * (s.shape === 'strip' ? 2.4 : 1.1))
        : width * 0.62;
    const top = s.beside && !s.wordless ? height * 0.12 : height * (s.wordless ? 0.16 : 0.08);
    const foot = s.wordless ? height : s.beside ? height : part.y + part.height;
    const window = boxed(middleOf(part).x - w / 2, top, w, foot - top);
    const r = Math.min(w / 2, window.height * 0.92);
    const corners = { kind: 'rounded' as const, radii: [r, r, 0, 0] as [number, number, number, number] };
    return ofLeading(
      s,
      s.photoIn(window, { corners }),
      block ? s.logo([...clearOf(s, block), window], footRight, s.look.leading) : [],
      layersOf(block),
    );
  },
};

const mount: Layout = {
  id: 'mount',
  name: 'Mounted print',
  needs: ['photo'],
  make: (s) => {
    if (s.shape === 'round') return null;
    const { words, rest } = s.halves(s.shape === 'strip' ? 0.46 : s.beside ? 0.44 : 0.36);
    const m = Math.min(s.canvas.width, s.canvas.height) * (s.wordless ? 0.12 : 0.08);
    const block = s.block(words, {
      align: 'left',
      down: s.beside ? 0.5 : 0.3,
      ink: s.look.ink,
      times: 0.82,
    });
    if (!block && !s.wordless) return null;
    const part = s.wordless ? s.all : rest;
    const open = grown(part, -m);
    // The print's margin to the words is theirs already.
    const print =
      s.wordless || !block
        ? open
        : s.beside
          ? boxed(part.x === 0 ? m : part.x, m, part.width - m, s.canvas.height - 2 * m)
          : boxed(m, m, s.canvas.width - 2 * m, part.height - m * 1.2);
    const line = Math.max(0.8, m * 0.06);
    const edge = { border: { width: line, colour: s.look.ink, style: 'solid' as const }, opacity: 0.45 };
    return ofPaper(
      s,
      s.photoIn(print),
      [s.shapeOf('mount-line', 'Mount’s line', grown(print, m * 0.28), null, edge)],
      block ? s.logo([...clearOf(s, block), print], footRight, s.look.paper) : [],
      layersOf(block),
    );
  },
};

/** How far a point beside a box, or above it, is from it. */
const awayFrom = (b: Box, { x, y }: Point, beside: boolean): number =>
  beside ? Math.max(b.x - x, x - b.x - b.width) : b.y - y;

const disc: Layout = {
  id: 'disc',
  name: 'Cut-out on a disc',
  needs: ['cutout'],
  make: (s) => {
    const { width, height } = s.canvas;
    const { words, rest } = s.halves(s.shape === 'strip' ? 0.66 : s.beside ? 0.56 : 0.38);
    const block = s.block(words, { align: s.beside ? 'left' : 'centre', down: 0.5, ink: onLeading(s), times: 1.1 });
    if (!block && !s.wordless) return null;
    const part = s.wordless ? s.all : rest;
    // In the middle of what is safe of its part.
    const middle = middleOf(intersection(part, s.room) ?? part);
    const at = { x: middle.x, y: s.beside && !s.wordless ? height * 0.54 : middle.y };
    const free = block ? 2 * (awayFrom(block.box, at, s.beside) - s.margin * 0.6) : Infinity;
    const wanted = s.wordless
      ? Math.min(width, height) * 0.78
      : s.beside
        ? Math.min(height * (s.shape === 'strip' ? 1.5 : 1.12), part.width * 1.1)
        : Math.min(width * 0.72, part.height * 0.92);
    const d = Math.max(s.margin * 2, Math.min(wanted, free));
    const round = square(at.x, at.y, d);
    const room = intersection(grown(round, -d * 0.13), grown(s.all, -s.margin * 0.7)) ?? round;
    const clear = intersection(room, s.zones.length ? s.room : room) ?? room;
    const thing = s.cutout(clear);
    if (!thing.length) return null;
    return ofLeading(
      s,
      [s.shapeOf('disc', 'Disc', round, s.look.paper, { form: { kind: 'ellipse' } })],
      thing,
      block ? s.note([...clearOf(s, block), clear], topRight, s.look.paper, block.size * 0.34) : [],
      block ? s.logo([...clearOf(s, block), round], { x: 0, y: 1 }, s.look.leading) : [],
      layersOf(block),
    );
  },
};

const table: Layout = {
  id: 'table',
  name: 'On the table',
  needs: ['cutout'],
  make: (s) => {
    const { width, height } = s.canvas;
    const seam = height * (s.wordless ? 0.7 : s.beside ? 0.74 : 0.84);
    const { words, rest } = s.halves(s.shape === 'strip' ? 0.7 : 0.6);
    const above = s.beside
      ? { ...words, height: seam }
      : boxed(0, 0, width, height * (s.shape === 'tall' ? 0.42 : 0.4));
    const block = s.block(above, { align: s.beside ? 'left' : 'centre', down: 0.55, ink: s.look.ink, times: 1.05 });
    if (!block && !s.wordless) return null;
    const top = s.wordless ? height * 0.2 : s.beside ? height * 0.1 : above.height + s.margin * 0.4;
    const foot = seam + (height - seam) * 0.36;
    const part = s.wordless
      ? grown(s.all, -width * 0.2)
      : s.beside
        ? grown(rest, -s.margin * 0.6)
        : grown(s.all, -s.margin);
    const strip = { place: { mode: 'band' as const, side: 'bottom' as const, size: height - seam } };
    const things = s.cutout(boxed(part.x, top, part.width, foot - top), true);
    if (!things.length) return null;
    return ofPaper(
      s,
      [s.shapeOf('table', 'Table', boxed(0, seam, width, height - seam), s.look.leading, strip)],
      things,
      block
        ? s.note(
            [...clearOf(s, block), boxed(part.x, top, part.width, foot - top), boxed(0, seam, width, height - seam)],
            topRight,
            s.look.leading,
            block.size * 0.34,
          )
        : [],
      layersOf(block),
    );
  },
};

const strips: Layout = {
  id: 'strips',
  name: 'Paper strips',
  needs: ['photo'],
  make: (s) => {
    const { words } = s.halves(s.shape === 'strip' ? 0.6 : s.beside ? 0.66 : 0.58);
    const block = s.block(s.shape === 'round' ? s.all : words, {
      align: s.shape === 'round' ? 'centre' : 'left',
      down: s.beside ? 0.62 : 0.9,
      ink: s.look.ink,
      lineInk: onLeading(s),
      grounds: [s.look.paper, s.look.leading],
      times: 1.2,
    });
    if (!block) return null;
    return ofPhoto(s, s.photo(block.box), s.logo(clearOf(s, block), topRight, null), block.layers);
  },
};

const duotone: Layout = {
  id: 'duotone',
  name: 'Two colours',
  needs: ['photo'],
  make: (s) => {
    const tint = { kind: 'two' as const, dark: s.deep, light: s.pale };
    if (s.wordless) return ofPhoto(s, s.photo(null, { tint }));
    // Its lights are the colour itself, so that little of it has to go under a veil.
    const coloured = { ...tint, light: s.look.leading };
    const block = s.block(s.all, {
      align: 'centre',
      down: 0.5,
      ink: s.pale,
      times: 1.15,
      run: { case: 'upper', tracking: 0.04 },
      line: 0.36,
    });
    if (!block) return null;
    return ofPhoto(s, s.photo(null, { tint: coloured }), [s.veil({ kind: 'whole' }, s.pale, s.deep)], block.layers);
  },
};

const frame: Layout = {
  id: 'frame',
  name: 'Fine frame',
  alone: 'Fine line',
  needs: ['photo'],
  make: (s) => {
    const least = Math.min(s.canvas.width, s.canvas.height);
    const inset = least * (s.shape === 'strip' ? 0.09 : 0.055);
    const border = { width: Math.max(1, least * 0.009), colour: s.pale, style: 'solid' as const };
    const box = grown(s.all, -inset);
    const form = s.shape === 'round' ? ({ kind: 'ellipse' } as const) : ({ kind: 'rectangle' } as const);
    const line = s.shapeOf('frame', 'Frame', box, null, { border, form });
    if (s.wordless) return ofPhoto(s, s.photo(null), [line]);
    const block = s.block(grown(box, -inset * 0.4), { align: 'centre', down: 0.5, ink: s.pale });
    if (!block) return null;
    const rule = s.rule(block, s.pale, 'centre', grown(box, -inset * 1.6));
    return ofPhoto(s, s.photo(null), [s.veil({ kind: 'whole' }, s.pale), line], rule, block.layers);
  },
};

const glazes: Layout = {
  id: 'glazes',
  name: 'Stripes of colour',
  needs: ['title'],
  make: (s) => {
    if (s.wordless) return null;
    const { width, height } = s.canvas;
    const { words, rest } = s.halves(s.shape === 'strip' ? 0.68 : s.beside ? 0.62 : 0.66);
    const block = s.block(words, { align: 'left', down: 0.5, ink: s.look.ink, times: 1.15 });
    if (!block) return null;
    // What is all but the paper’s own would be a gap.
    const colours = [...s.look.colours, s.look.ink].filter((c) => contrast(c, s.look.paper) >= 1.3).slice(0, 4);
    // Each reaches to the end, the next lies on it: no seam shows the paper between two.
    const stripes = colours.map((colour, i) => {
      const from = i / colours.length;
      const box = s.beside
        ? boxed(rest.x + from * rest.width, 0, (1 - from) * rest.width, height)
        : boxed(0, from * rest.height, width, (1 - from) * rest.height);
      return s.shapeOf(`stripe-${i + 1}`, `Stripe ${i + 1}`, box, colour);
    });
    const thing = s.cutout(grown(intersection(rest, s.all)!, -s.margin * 0.7));
    const logo = s.logo(clearOf(s, block), { x: 0, y: 1 }, s.look.paper, words);
    return ofPaper(s, stripes, thing, s.rule(block, s.look.leading, 'left'), logo, block.layers);
  },
};

const slant: Layout = {
  id: 'slant',
  name: 'Slanted panel',
  needs: ['photo'],
  make: (s) => {
    if (s.wordless) return null;
    const { width, height } = s.canvas;
    const lean = s.beside ? Math.min(height * 0.55, width * 0.16) : height * 0.1;
    const { words, rest, side } = s.halves(s.shape === 'strip' ? 0.44 : s.beside ? 0.44 : 0.4);
    const block = s.block(words, { align: 'left', down: s.beside ? 0.5 : 0.7, ink: onLeading(s) });
    if (!block) return null;
    const panel =
      side === 'bottom'
        ? { ...words, y: words.y - lean, height: words.height + lean }
        : side === 'left'
          ? { ...words, width: words.width + lean }
          : { ...words, x: words.x - lean, width: words.width + lean };
    const [w, h] = [panel.width, panel.height];
    const data =
      side === 'bottom'
        ? `M 0 ${lean} L ${w} 0 L ${w} ${h} L 0 ${h} Z`
        : side === 'left'
          ? `M 0 0 L ${w} 0 L ${w - lean} ${h} L 0 ${h} Z`
          : `M ${lean} 0 L ${w} 0 L ${w} ${h} L 0 ${h} Z`;
    const form = { kind: 'path' as const, data, width: w, height: h };
    const shown =
      side === 'bottom'
        ? boxed(0, 0, width, rest.height + 1)
        : side === 'left'
          ? boxed(rest.x, 0, rest.width, height)
          : boxed(0, 0, rest.width, height);
    return ofLeading(
      s,
      s.photoIn(shown),
      [s.shapeOf('panel', 'Panel', panel, s.look.leading, { form })],
      s.note([...clearOf(s, block), panel], footRight, s.look.paper, block.size * 0.36),
      block.layers,
    );
  },
};

const medallion: Layout = {
  id: 'medallion',
  name: 'Round picture',
  needs: ['photo'],
  make: (s) => {
    const { width, height } = s.canvas;
    const { words, rest } = s.halves(s.shape === 'strip' ? 0.76 : s.beside ? 0.6 : 0.42);
    const block = s.block(words, { align: s.beside ? 'left' : 'centre', down: s.beside ? 0.5 : 0.35, ink: s.look.ink });
    if (!block && !s.wordless) return null;
    const part = s.wordless ? s.all : rest;
    const least = Math.min(width, height);
    const d = s.wordless ? least * 0.82 : Math.min(part.width * 0.86, part.height * 0.82);
    const ring = square(middleOf(part).x, s.beside || s.wordless ? middleOf(part).y : part.height * 0.54, d);
    const border = { width: Math.max(1.5, d * 0.022), colour: s.look.leading };
    return ofPaper(
      s,
      s.photoIn(ring, { corners: { kind: 'round' }, border }),
      block ? s.logo([...clearOf(s, block), ring], { x: 0, y: 1 }, s.look.paper) : [],
      block ? s.note([...clearOf(s, block), ring], { x: 0, y: 0 }, s.look.leading, block.size * 0.34) : [],
      layersOf(block),
    );
  },
};

const nameplate: Layout = {
  id: 'nameplate',
  name: 'The logo alone',
  needs: ['logo'],
  make: (s) => {
    const { width, height } = s.canvas;
    const inside = intersection(s.room, grown(s.all, -Math.min(width, height) * 0.14)) ?? s.room;
    const { line } = s.contents;
    const under = !s.wordless && line.trim() ? inside.height * (s.beside ? 0.3 : 0.2) : 0;
    const part = { ...inside, height: inside.height - under };
    // The line alone: the logo says the rest.
    const block = under
      ? s.alone(boxed(inside.x, inside.y + part.height, inside.width, under), {
          align: 'centre',
          down: 0.6,
          ink: s.look.ink,
        })
      : null;
    const edge = Math.max(2, Math.min(width, height) * 0.035);
    const strip = { place: { mode: 'band' as const, side: 'bottom' as const, size: edge } };
    const foot =
      s.shape === 'round'
        ? []
        : [s.shapeOf('edge', 'Edge', boxed(0, height - edge, width, edge), s.look.leading, strip)];
    const w = Math.min(part.width, part.height * 4.2);
    const h = Math.min(part.height, part.width);
    const logo = s.largeLogo(centred(middleOf(part).x, middleOf(part).y, w, h));
    return logo.length ? ofPaper(s, foot, logo, layersOf(block)) : null;
  },
};

const large: Layout = {
  id: 'large',
  name: 'Large words',
  alone: 'First letter',
  needs: ['title'],
  make: (s) => {
    const ink = onLeading(s);
    if (s.wordless) {
      // A letter fills what is square or round.
      const initial = s.beside ? null : s.initial(ink);
      return initial && ofLeading(s, [initial]);
    }
    const block = s.block(s.all, { align: 'left', down: 0.5, ink, times: 1.7, line: 0.36, lineSpacing: 1.02 });
    if (!block) return null;
    return ofLeading(
      s,
      s.note(clearOf(s, block), topRight, s.look.paper, block.size * 0.26),
      s.logo(clearOf(s, block), footRight, s.look.leading),
      block.layers,
    );
  },
};

/** All layouts, in the order in which they are offered. */
export const layouts: readonly Layout[] = [
  quiet,
  beside,
  arch,
  label,
  disc,
  band,
  frame,
  mount,
  table,
  slant,
  medallion,
  strips,
  duotone,
  glazes,
  large,
  nameplate,
];
