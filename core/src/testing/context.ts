import { frameOf } from '../graphic/frame';
import type { Graphic } from '../graphic/graphic';
import type { ReportContext } from '../report/rule';
import type { Shaper } from '../words/shaper';

/** What rules are given of a graphic about which nothing else is known: no pictures, nothing printed, no limit. */
export const contextOf = (graphic: Graphic, shaper: Shaper, more: Partial<ReportContext> = {}): ReportContext => ({
  graphic,
  frame: frameOf(graphic),
  shaper,
  assets: new Map(),
  legibility: [],
  printed: [],
  today: '2026-11-29',
  slotNow: null,
  alike: 1,
  fileName: 'test-2026-11-29.jpg',
  watermark: null,
  weights: null,
  ...more,
});
