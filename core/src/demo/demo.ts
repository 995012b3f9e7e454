import '../zod-setup';
import * as z from 'zod';
import { LayoutLook, contentLetters } from '../graphic/contents';
import { WordsLayer } from '../graphic/graphic';
import { Fill } from '../colour/fill';
import { SiteRecord } from '../site/site-record';
import { SlotSet } from '../slot/set';
import { Slot } from '../slot/slot';
import { limits } from '../limits';

const file = z.string().regex(/^[a-z0-9-]+\.(jpg|png|svg|webp)$/);

/** A picture of the demo's shelf as a layer: `own` is what is not as a picture arrives (see `PictureLayer`). */
export const DemoPicture = z.object({
  picture: file,
  name: z.string().min(1).max(limits.name),
  role: z.enum(['photo', 'logo']),
  own: z.record(z.string(), z.unknown()),
});
export type DemoPicture = z.infer<typeof DemoPicture>;

/** A graphic of the demo, for one of its slots; layers stand back to front. */
export const DemoGraphic = z.object({
  id: z.string().min(1).max(64),
  name: z.string().min(1).max(limits.name),
  /** The slot's id. */
  slot: z.string(),
  alt: z.string().max(limits.description),
  backdrop: Fill,
  layers: z.array(z.union([DemoPicture, WordsLayer])).max(limits.layers),
});
export type DemoGraphic = z.infer<typeof DemoGraphic>;

const named = z.object({ file, name: z.string().min(1).max(limits.name) });

/** A graphic of the demo that is made from a layout, with what is put into it; its pictures by their files. */
export const DemoLaidOut = z.object({
  id: z.string().min(1).max(64),
  name: z.string().min(1).max(limits.name),
  slot: z.string(),
  alt: z.string().max(limits.description),
  layout: z.string().max(40),
  photo: named.optional(),
  cutout: named.optional(),
  logo: named.optional(),
  title: z.string().max(contentLetters.title),
  line: z.string().max(contentLetters.line),
  note: z.string().max(contentLetters.note),
  look: LayoutLook,
});
export type DemoLaidOut = z.infer<typeof DemoLaidOut>;

/** What a demo brings to look round in: a site with its slots, graphics, the house style. Its pictures are on the site's shelf. */
export const Demo = z.object({
  format: z.literal('bright-slot-demo'),
  version: z.literal(1),
  name: z.string().min(1).max(120),
  /** A sentence on whose it is, and what it is called in running text. */
  about: z.string().max(300),
  call: z.string().max(60),
  /** Whose its pictures are. */
  source: z.object({ credit: z.string().max(300), licence: z.string().max(300) }),
  site: SiteRecord,
  slots: z.array(Slot).max(200),
  sets: z.array(SlotSet).max(50),
  /** The oldest first. */
  graphics: z.array(z.union([DemoGraphic, DemoLaidOut])).max(200),
  houseStyle: z.object({ business: z.string().max(120), address: z.string().max(300), logos: z.array(file).max(12) }),
  /** A screenshot to measure slots on, by its path on the site. */
  shot: z.string().max(200),
});
export type Demo = z.infer<typeof Demo>;
