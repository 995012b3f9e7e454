import '../zod-setup';
import * as z from 'zod';
import same from 'fast-deep-equal';
import { Fill } from '../colour/fill';
import { composeRoles, type ComposeRole } from '../compose/roles';
import { isPicture, type Graphic, type Layer, type PictureLayer, type WordsLayer } from '../graphic/graphic';
import { clamp } from '../geometry/clamp';
import { VeilLayer, type ShapeLayer } from '../graphic/shape';
import { limits } from '../limits';
import {
  appearance,
  scaledBorder,
  scaledCorners,
  scaledShadow,
  type Border,
  type Corners,
  type Shadow,
} from '../pixels/appearance';
import { nameFrom } from '../text';
import { wordsAppearance, type WordsGround } from '../words/appearance';
import { firstRun, Run, withRuns, wordsBlock } from '../words/words';

/** What of each kind of layer can be done again elsewhere: how it looks, never where it lies or what it says. */
const PictureSettings = z
  .object({
    opacity: appearance.opacity,
    flip: appearance.flip,
    look: appearance.look,
    tint: appearance.tint,
    corners: appearance.corners,
    border: appearance.border,
    shadow: appearance.shadow,
    fades: appearance.fades,
  })
  .partial();
const LetterSettings = Run.pick({ face: true, colour: true, tracking: true, case: true }).partial();
const WordsSettings = z
  .object({
    lineSpacing: wordsBlock.lineSpacing,
    outline: wordsAppearance.outline,
    shadow: wordsAppearance.shadow,
    ground: wordsAppearance.ground,
    letters: LetterSettings,
  })
  .partial();
const ShapeSettings = z
  .object({
    fill: Fill,
    corners: appearance.corners,
    shadow: appearance.shadow,
    opacity: appearance.opacity,
  })
  .partial();
const VeilSettings = VeilLayer.pick({ colour: true, strength: true, justEnough: true }).partial();
const role = z.enum(composeRoles);

/** One thing that is done again, to whatever is for the same. */
export const RoutineChange = z.discriminatedUnion('of', [
  z.object({ of: z.literal('picture'), role, set: PictureSettings }),
  z.object({ of: z.literal('words'), role, set: WordsSettings }),
  z.object({ of: z.literal('shape'), role, set: ShapeSettings }),
  z.object({ of: z.literal('veil'), role, set: VeilSettings }),
  /** A veil where there is none, behind the words. */
  z.object({ of: z.literal('new-veil'), colour: VeilLayer.shape.colour }),
  z.object({ of: z.literal('backdrop'), fill: Fill }),
]);
export type RoutineChange = z.infer<typeof RoutineChange>;

export const RoutineStep = z.object({
  name: z.string().max(limits.step),
  changes: z.array(RoutineChange).min(1).max(limits.layers),
});
export type RoutineStep = z.infer<typeof RoutineStep>;

/** Chosen steps of one graphic, to be taken with others. */
export const Routine = z.object({
  version: z.literal(1),
  id: z.string().min(1).max(64),
  name: z.string().min(1).max(limits.name),
  /** The shorter side of the canvas they were taken on, canvas px: lengths go by it. */
  short: z.number().positive(),
  steps: z.array(RoutineStep).min(1).max(200),
});
export type Routine = z.infer<typeof Routine>;

/** What of some settings is otherwise after than before; null where nothing is. */
function changed<T extends object>(keys: readonly (keyof T)[], before: T, after: T): Partial<T> | null {
  const set = Object.fromEntries(keys.filter((k) => !same(before[k], after[k])).map((k) => [k, after[k]]));
  return Object.keys(set).length ? (set as Partial<T>) : null;
}

const keysOf = <S extends z.ZodObject>(schema: S) => Object.keys(schema.shape);

function wordsChanged(before: WordsLayer, after: WordsLayer): z.infer<typeof WordsSettings> | null {
  const block = changed(keysOf(WordsSettings).filter((k) => k !== 'letters') as (keyof WordsLayer)[], before, after);
  const letters = changed(keysOf(LetterSettings) as (keyof Run)[], firstRun(before), firstRun(after));
  return block || letters ? { ...block, ...(letters ? { letters } : {}) } : null;
}

function layerChanged(before: Layer, after: Layer, as: ComposeRole): RoutineChange | null {
  if (before.role === 'words' && after.role === 'words') {
    const set = wordsChanged(before, after);
    return set && { of: 'words', role: as, set };
  }
  if (isPicture(before) && isPicture(after)) {
    const set = changed(keysOf(PictureSettings) as (keyof typeof after)[], before, after);
    return set && { of: 'picture', role: as, set };
  }
  if (before.role === 'shape' && after.role === 'shape') {
    const set = changed(keysOf(ShapeSettings) as (keyof typeof after)[], before, after);
    return set && { of: 'shape', role: as, set };
  }
  if (before.role === 'veil' && after.role === 'veil') {
    const set = changed(keysOf(VeilSettings) as (keyof typeof after)[], before, after);
    // What is kept just strong enough is so elsewhere, at another strength.
    if (set && after.justEnough) delete set.strength;
    return set && Object.keys(set).length ? { of: 'veil', role: as, set } : null;
  }
  return null;
}

/**
 * What a step did that can be done again elsewhere; null where it did nothing of the kind (it moved, wrote or cropped
 * something). `roles`: what the layers after it are for.
 */
export function routineStep(
  name: string,
  before: Graphic,
  after: Graphic,
  roles: ReadonlyMap<string, ComposeRole>,
): RoutineStep | null {
  const was = new Map(before.layers.map((l) => [l.id, l]));
  const changes: RoutineChange[] = [];
  for (const layer of after.layers) {
    const old = was.get(layer.id);
    const as = roles.get(layer.id);
    if (!old && layer.role === 'veil') changes.push({ of: 'new-veil', colour: layer.colour });
    if (!old || old === layer || !as) continue;
    const change = layerChanged(old, layer, as);
    if (change) changes.push(change);
  }
  if (!same(before.backdrop, after.backdrop)) changes.push({ of: 'backdrop', fill: after.backdrop });
  return changes.length ? { name, changes } : null;
}

/** A routine of steps that were taken on a canvas. */
export function routineOf(
  own: { id: string; name: string },
  canvas: Graphic['canvas'],
  steps: readonly RoutineStep[],
): Routine {
  return {
    version: 1,
    id: own.id,
    name: nameFrom(own.name, limits.name, 'Routine'),
    short: Math.min(canvas.width, canvas.height),
    steps: [...steps],
  };
}

/** Settings as they are given, lengths (canvas px) times `by`. */
function scaled(set: object, by: number): object {
  const s = set as {
    corners?: Corners;
    border?: Border | null;
    outline?: Border | null;
    shadow?: Shadow | null;
    ground?: WordsGround | null;
  };
  return {
    ...set,
    ...(s.corners ? { corners: scaledCorners(s.corners, by) } : {}),
    ...(s.border === undefined ? {} : { border: scaledBorder(s.border, by) }),
    ...(s.outline === undefined ? {} : { outline: scaledOutline(s.outline, by) }),
    ...(s.shadow === undefined ? {} : { shadow: scaledShadow(s.shadow, by) }),
    ...(s.ground ? { ground: scaledGround(s.ground, by) } : {}),
  };
}

const scaledOutline = (o: Border | null, by: number) => o && { ...o, width: clamp(o.width * by, 0.1, 200) };
const scaledGround = (g: WordsGround, by: number): WordsGround => ({
  ...g,
  across: clamp(g.across * by, 0, 2000),
  down: clamp(g.down * by, 0, 2000),
  radius: clamp(g.radius * by, 0, 2000),
});

function withChange(layer: Layer, change: RoutineChange, by: number): Layer {
  if (change.of === 'words' && layer.role === 'words') {
    const { letters, ...block } = change.set;
    const next = { ...layer, ...(scaled(block, by) as Partial<WordsLayer>) };
    return letters ? withRuns(next, letters as Partial<Omit<Run, 'text'>>) : next;
  }
  if (change.of === 'picture' && isPicture(layer))
    return { ...layer, ...(scaled(change.set, by) as Partial<PictureLayer>) };
  if (change.of === 'shape' && layer.role === 'shape')
    return { ...layer, ...(scaled(change.set, by) as Partial<ShapeLayer>) };
  if (change.of === 'veil' && layer.role === 'veil') return { ...layer, ...(change.set as Partial<VeilLayer>) };
  return layer;
}

/**
 * A graphic with a routine's steps taken with it, each with what is for the same there (`roles`); what it has nothing
 * for is passed over. The same graphic where nothing comes of it. Lengths go by the canvases' shorter sides; a new veil
 * has no strength yet (see `VeilLayer.justEnough`).
 */
export function withRoutine(graphic: Graphic, roles: ReadonlyMap<string, ComposeRole>, routine: Routine): Graphic {
  const by = Math.min(graphic.canvas.width, graphic.canvas.height) / routine.short;
  let { layers, backdrop } = graphic;
  for (const change of routine.steps.flatMap((s) => s.changes)) {
    if (change.of === 'backdrop') backdrop = change.fill;
    else if (change.of === 'new-veil') layers = withVeil(layers, change.colour);
    else layers = layers.map((l) => (roles.get(l.id) === change.role ? withChange(l, change, by) : l));
  }
  return same([layers, backdrop], [graphic.layers, graphic.backdrop]) ? graphic : { ...graphic, layers, backdrop };
}

/** A veil right behind the words, where there is none and there are words to be read. */
function withVeil(layers: Graphic['layers'], colour: string): Graphic['layers'] {
  const at = layers.findIndex((l) => l.role === 'words' && l.visible);
  if (at < 0 || layers.some((l) => l.role === 'veil')) return layers;
  const veil: VeilLayer = {
    id: 'routine-veil',
    name: 'Veil',
    visible: true,
    locked: false,
    role: 'veil',
    form: { kind: 'whole' },
    colour,
    strength: 0,
    words: [],
    justEnough: true,
  };
  return [...layers.slice(0, at), veil, ...layers.slice(at)];
}
