import { newGraphic, type ReportContext } from '@bright-slot/core';
import { demo } from '../../../../demo/src/index';
import { PixelsService } from '../pixels/pixels.service';
import { GraphicsRepository, type GraphicEntry } from '../storage/graphics-repository';
import { rootInjector } from '../testing/root-injector';
import { PreviewService } from './preview.service';
import { ReportContexts } from './report-context.service';

const slot = demo.slots.find((s) => s.id === 'blog-header')!;
const graphic = newGraphic({ id: 'g', name: 'Autumn glazes', created: '2026-12-01T00:00:00Z', slot });
const entry = { id: 'g', state: 'one' } as GraphicEntry;

const context = {
  graphic,
  frame: graphic.frames[0]!,
  shaper: null,
  assets: new Map(),
  legibility: [],
  weights: null,
  printed: [],
  today: '2026-12-01',
  slotNow: null,
  alike: 1,
  watermark: null,
  fileName: 'autumn-glazes.jpg',
} as unknown as ReportContext;

/** Every step says that it was asked for; each but the last waits until it is let go. */
function service() {
  const asked: string[] = [];
  const kept: unknown[] = [];
  let go = (): void => undefined;
  const step = <T>(name: string, gives: T) => {
    asked.push(name);
    return new Promise<T>((resolve) => (go = () => resolve(gives)));
  };
  const contexts = {
    judgedBy: () => 'today',
    whole: (_g: unknown, _f: unknown, stop?: AbortSignal) =>
      step('judged', context).then((found) => {
        stop?.throwIfAborted();
        return found;
      }),
  };
  const repository = {
    preview: () => Promise.resolve(undefined),
    graphic: () => Promise.resolve(graphic),
    setPreview: (record: unknown) => Promise.resolve(void kept.push(record)),
  };
  const pixels = { miniature: () => step('painted', new Blob(['x'])) };
  const previews = rootInjector([
    PreviewService,
    { provide: ReportContexts, useValue: contexts },
    { provide: GraphicsRepository, useValue: repository },
    { provide: PixelsService, useValue: pixels },
  ]).get(PreviewService);
  return { previews, asked, kept, letGo: () => go() };
}

it('what nobody waits for any more is not painted, and nothing of it is kept', async () => {
  const { previews, asked, kept, letGo } = service();
  const stop = new AbortController();
  const going = previews.preview(entry, stop.signal);
  await new Promise((r) => setTimeout(r));
  expect(asked).toEqual(['judged']);
  stop.abort();
  letGo();
  await expect(going).rejects.toThrow();
  expect(asked).toEqual(['judged']);
  expect(kept).toEqual([]);
});

it('what is waited for is judged, painted and kept', async () => {
  const { previews, asked, kept, letGo } = service();
  const going = previews.preview(entry, new AbortController().signal);
  await new Promise((r) => setTimeout(r));
  letGo();
  // The rules rest between one and the next.
  while (asked.length < 2) await new Promise((r) => setTimeout(r));
  expect(asked).toEqual(['judged', 'painted']);
  letGo();
  expect((await going).fit).not.toBe('');
  expect(kept).toHaveLength(1);
});
