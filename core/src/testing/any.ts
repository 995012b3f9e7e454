import type { Shadow } from '../pixels/appearance';
import type { Fill } from '../colour/fill';
import type { Layer, WordsLayer } from '../graphic/graphic';
import type { ShapeForm, ShapeLayer, ShapePlace, VeilForm, VeilLayer } from '../graphic/shape';
import { sideNames } from '../pixels/appearance';
import { families } from '../words/families';
import { photo, shape, veil, words } from './samples';

/** Layers of every kind with settings from all of what a person can set, from repeatable random numbers 0…1. */
export function anyLayers(r: () => number) {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(r() * list.length)]!;
  const between = (least: number, most: number) => least + r() * (most - least);
  const maybe = <T>(make: () => T): T | null => (r() < 0.5 ? make() : null);
  const colour = () =>
    `#${Math.floor(r() * 0x1000000)
      .toString(16)
      .padStart(6, '0')}`;
  const box = () => ({ x: between(-60, 800), y: between(-40, 150), width: between(5, 500), height: between(5, 160) });
  const shadow = (): Shadow => ({
    distance: between(0, 20),
    angle: between(-180, 180),
    blur: between(0, 20),
    colour: colour(),
    strength: r(),
  });
  const fill = (): Fill =>
    pick<() => Fill>([
      () => ({ kind: 'none' }),
      () => ({ kind: 'colour', colour: colour() }),
      () => ({
        kind: 'gradient',
        form: pick(['linear', 'radial'] as const),
        from: { x: r(), y: r() },
        to: { x: r(), y: r() },
        stops: [0, r(), 1].sort().map((at) => ({ at, colour: colour(), opacity: r() < 0.5 ? 1 : r() })),
      }),
    ])();
  const texts = ['Autumn glazes', 'a diary\nfrom the mill', 'Öfen & Åre, ½ price', 'WAVE To.', 'jig fly', 'x'];

  const anyWords = (id: string): WordsLayer => {
    const family = pick(families);
    return words(
      pick(texts),
      {
        id,
        place: { x: between(-40, 980), y: between(-30, 180) },
        lineSpacing: between(0.6, 2),
        paragraphSpacing: between(0, 1),
        sizing: pick<WordsLayer['sizing']>([
          { kind: 'grow' },
          { kind: 'wrap', width: between(30, 500) },
          { kind: 'fill', width: between(40, 500), height: between(20, 150) },
        ]),
        outline: maybe(() => ({ width: between(0.5, 12), colour: colour() })),
        shadow: maybe(shadow),
        ground: maybe(() => ({
          colour: colour(),
          opacity: r(),
          across: between(0, 30),
          down: between(0, 20),
          radius: between(0, 20),
        })),
        turn: maybe(() => between(-180, 180)) ?? 0,
      },
      {
        size: between(8, 110),
        colour: colour(),
        tracking: between(-0.1, 0.4),
        case: pick(['typed', 'upper', 'lower', 'title'] as const),
        face: {
          family: family.name,
          weight: Math.round(between(family.weights[0], family.weights[1])),
          italic: r() < 0.4,
        },
      },
    );
  };

  const anyShape = (id: string, inWords: string | null): ShapeLayer => {
    const line = r() < 0.2;
    const form: ShapeForm = line
      ? { kind: 'line' }
      : pick<ShapeForm>([
          { kind: 'rectangle' },
          { kind: 'ellipse' },
          { kind: 'bubble', tip: { x: between(-0.5, 1.5), y: between(-0.5, 1.8) } },
          { kind: 'path', data: 'M0 45C0 -15 80 -15 80 45L60 90Q40 60 20 90Z', width: 80, height: 90 },
        ]);
    const place: ShapePlace = line
      ? {
          mode: 'line',
          from: { x: between(0, 900), y: between(0, 190) },
          to: { x: between(0, 900), y: between(0, 190) },
        }
      : pick<() => ShapePlace>([
          () => ({ mode: 'box', box: box() }),
          () => ({ mode: 'band', side: pick(sideNames), size: between(2, 120) }),
          () =>
            inWords
              ? { mode: 'around', words: inWords, across: between(0, 40), down: between(0, 30), last: box() }
              : { mode: 'box', box: box() },
        ])();
    return shape({
      id,
      form,
      place,
      fill: fill(),
      border: (line ? () => border() : () => maybe(border))(),
      corners: pick<() => ShapeLayer['corners']>([
        () => ({ kind: 'straight' }),
        () => ({ kind: 'rounded', radii: [between(0, 60), between(0, 60), between(0, 60), between(0, 60)] }),
        () => ({ kind: 'round' }),
      ])(),
      shadow: maybe(shadow),
      opacity: between(0.2, 1),
      turn: maybe(() => between(-180, 180)) ?? 0,
    });
  };
  const border = () => ({
    width: between(0.5, 14),
    colour: colour(),
    style: pick(['solid', 'dashed', 'dotted'] as const),
  });

  const anyVeil = (id: string): VeilLayer =>
    veil({
      id,
      form: pick<VeilForm>([
        { kind: 'whole' },
        { kind: 'band', way: pick(['across', 'down'] as const), at: between(0, 300), size: between(1, 400), soft: 20 },
        { kind: 'side', side: pick(sideNames), reach: between(1, 600) },
        { kind: 'behind', grow: between(0, 30), soft: between(0, 40) },
      ]),
      colour: colour(),
      strength: Math.round(between(0, 255)),
    });

  const layer = (id: string, inWords: string | null = null): Layer =>
    pick<() => Layer>([
      () => anyWords(id),
      () => anyShape(id, inWords),
      () => anyVeil(id),
      () =>
        photo({
          id,
          place: { mode: 'free', x: between(-50, 500), y: between(-50, 100), width: between(10, 600) },
          turn: between(-180, 180),
          opacity: r(),
        }),
    ])();
  return { layer, words: anyWords, shape: anyShape, veil: anyVeil, fill, colour, pick };
}
