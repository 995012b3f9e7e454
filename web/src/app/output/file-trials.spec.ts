import { ApplicationRef, DestroyRef, type Injector } from '@angular/core';
import { demo } from '../../../../demo/src/index';
import { frameOf, newGraphic, noNotes, type FileDifference } from '@bright-slot/core';
import { PixelsService, type FileChoices } from '../pixels/pixels.service';
import { rootInjector } from '../testing/root-injector';
import { FileTrials, type TrialSubject } from './file-trials';

const slot = demo.slots.find((s) => s.id === 'blog-header')!;
const graphic = newGraphic({ id: 'g', name: 'Autumn glazes', created: '2026-11-30T00:00:00Z', slot });
const subject = (state = 'one'): TrialSubject => ({ graphic, frame: frameOf(graphic), notes: noNotes, state });

const asked: FileChoices[] = [];
let failing = '';
let held: ((value: unknown) => void) | null = null;
/** From 80 on nothing is seen; WebP is the lightest. */
const differs = (quality: number): FileDifference => ({
  ssim: 0.99,
  seen: quality < 80,
  worst: [{ box: { x: 0, y: 0, width: 32, height: 32 }, weight: 80 / quality, structure: 1, colour: 1 }],
});
/** Bytes that a file has for each step of its quality. */
const perQuality = { jpeg: 300, png: 4000, webp: 200, avif: 100, svg: 50 };
const made = async (choices: FileChoices, signal: AbortSignal) => {
  asked.push(choices);
  if (held) await new Promise((done) => (held = done));
  signal.throwIfAborted();
  if (choices.format === failing) throw new Error('It could not be made.');
  const per = perQuality[choices.format];
  const blob = new Blob([new Uint8Array(per * choices.quality)]);
  return { blob, width: 940, height: 198, decoded: 0, difference: differs(choices.quality) };
};
/** How many are made at once, and by whom. */
let [now, most] = [0, 0];
const counted = async <T>(work: Promise<T>): Promise<T> => {
  most = Math.max(most, ++now);
  return work.finally(() => now--);
};
const pixels = {
  file: (_g: unknown, _f: unknown, choices: FileChoices, signal: AbortSignal) => counted(made(choices, signal)),
  fileOfPainted: (_p: unknown, choices: FileChoices, signal: AbortSignal) => counted(made(choices, signal)),
  difference: (_g: unknown, _f: unknown, file: Blob) =>
    Promise.resolve(differs(asked.find((c) => perQuality[c.format] * c.quality === file.size)!.quality)),
  painted: () => Promise.resolve({ width: 940, height: 198, close: () => undefined }),
};

let injector: Injector & { destroy(): void };
let trials: FileTrials;
const settled = async () => {
  for (let i = 0; i < 200; i++) {
    injector.get(ApplicationRef).tick();
    await new Promise((r) => setTimeout(r, 0));
    if (!trials.busy()) return;
  }
  throw new Error('It comes to no end');
};

beforeEach(() => {
  asked.splice(0);
  [now, most] = [0, 0];
  failing = '';
  held = null;
  URL.createObjectURL = () => 'blob:x';
  URL.revokeObjectURL = () => undefined;
  injector = rootInjector([
    { provide: PixelsService, useValue: pixels },
    { provide: DestroyRef, useValue: { onDestroy: () => () => undefined } },
    FileTrials,
  ]);
  trials = injector.get(FileTrials);
  trials.subject.set(subject());
  trials.chosen.set({ format: 'jpeg', quality: 85, chroma: '444' });
});
afterEach(() => injector.destroy());

it('alone, only the chosen file is made; another chosen is made too, the same again is not', async () => {
  await settled();
  trials.chosen.set({ format: 'png', quality: 85, chroma: '444' });
  await settled();
  trials.chosen.set({ format: 'png', quality: 40, chroma: '444' });
  await settled();
  expect(asked.map((c) => `${c.format} ${c.quality}`)).toEqual(['jpeg 85', 'png 85']);
  expect([trials.found(), trials.proposal()]).toEqual([false, null]);
});

it('the chosen file comes first, then the lightest that looks the same is found, then the curve is drawn', async () => {
  trials.tried.set('curve');
  await settled();
  expect(asked[0]).toMatchObject({ format: 'jpeg', quality: 85 });
  expect(trials.proposal()).toMatchObject({ format: 'webp' });
  expect(trials.proposal()!.quality).toBeLessThanOrEqual(82);
  expect(trials.proposal()!.difference.seen).toBe(false);
  expect(trials.trials().filter((t) => t.quality < 60).length).toBeGreaterThan(2);
  expect(trials.painted()).not.toBeNull();
});

it('where nobody looks at the curve, what it lacks is not made', async () => {
  trials.tried.set('curve');
  await settled();
  const [proposed, all] = [trials.proposal()!, asked.length];
  asked.splice(0);
  trials.tried.set('proposal');
  trials.subject.set(subject('again'));
  await settled();
  expect(trials.proposal()).toMatchObject({ format: proposed.format, quality: proposed.quality });
  expect(asked.length).toBeLessThan(all);
  expect(asked.filter((c) => c.quality < 60)).toEqual([]);
});

it('the first is made alone and shown before it is compared; then two are made at a time, none twice', async () => {
  trials.tried.set('curve');
  const shown: number[] = [];
  injector.get(ApplicationRef).tick();
  for (let i = 0; i < 20 && !trials.trials().length; i++) {
    if (trials.early()) shown.push(most);
    await new Promise((r) => setTimeout(r, 0));
  }
  expect(shown.every((n) => n === 1)).toBe(true);
  await settled();
  expect(most).toBe(2);
  const files = asked.map((c) => `${c.format} ${c.chroma} ${c.quality}`);
  expect(new Set(files).size).toBe(files.length);
  expect(trials.trials()).toHaveLength(files.length);
});

it('another file that is chosen while the first is being made comes as soon as a worker is free', async () => {
  trials.tried.set('curve');
  held = () => undefined;
  injector.get(ApplicationRef).tick();
  await new Promise((r) => setTimeout(r, 0));
  trials.chosen.set({ format: 'png', quality: 85, chroma: '444' });
  injector.get(ApplicationRef).tick();
  const release = held;
  held = null;
  release(null);
  await settled();
  expect(asked[1]).toMatchObject({ format: 'png' });
});

it('what waits for a worker is made of the next picture too, where that comes first', async () => {
  held = () => undefined;
  injector.get(ApplicationRef).tick();
  await new Promise((r) => setTimeout(r, 0));
  // The first worker is at the JPEG, so the PNG waits; it is what is next before and after.
  trials.chosen.set({ format: 'png', quality: 85, chroma: '444' });
  injector.get(ApplicationRef).tick();
  held = null;
  trials.subject.set(subject('another'));
  await settled();
  expect(trials.trials().map((t) => t.format)).toEqual(['png']);
});

it('what is made of an earlier picture is let go, and nothing of it is kept', async () => {
  trials.tried.set('curve');
  held = () => undefined;
  injector.get(ApplicationRef).tick();
  await new Promise((r) => setTimeout(r, 0));
  expect(asked).toHaveLength(1);
  trials.subject.set(subject('two'));
  injector.get(ApplicationRef).tick();
  const release = held;
  held = null;
  release(null);
  await settled();
  // Made once for the first, in vain, and again for the second.
  expect(asked.filter((c) => c.format === 'jpeg' && c.quality === 85 && c.chroma === '444')).toHaveLength(2);
  expect(trials.proposal()).not.toBeNull();
});

it('a format that cannot be made is told, and the others are found all the same', async () => {
  failing = 'webp';
  trials.tried.set('curve');
  await settled();
  expect(trials.problems().get('webp')).toBe('It could not be made.');
  expect(trials.proposal()).toMatchObject({ format: 'jpeg' });
});

it('a JPEG that was chosen where transparency is kept is made, and never proposed', async () => {
  const kept = { ...slot, keepsTransparency: true };
  const frame = { ...frameOf(graphic), slot: kept };
  trials.subject.set({ ...subject('kept'), frame });
  trials.chosen.set({ format: 'jpeg', quality: 40, chroma: '444' });
  trials.tried.set('curve');
  await settled();
  expect(trials.trials().some((t) => t.format === 'jpeg')).toBe(true);
  expect(trials.proposal()!.format).not.toBe('jpeg');
});

it('a limit that nothing looks the same under gives the best that is light enough', async () => {
  trials.tried.set('curve');
  trials.most.set(9000);
  await settled();
  expect(trials.proposal()).toMatchObject({ format: 'webp', quality: 45 });
});
