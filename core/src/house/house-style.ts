import '../zod-setup';
import * as z from 'zod';
import { DEFAULT_PATTERN, nameFields } from '../export/name';
import { Watermark } from '../export/watermark';
import { AssetHash, Colour } from '../values';
import { Face, type FieldName } from '../words/words';

/** What a house colour is for, in order of weight; any number may have none. */
export const colourRoles = ['words', 'ground', 'accent', 'second'] as const;
export type ColourRole = (typeof colourRoles)[number];

export const HouseColour = z.object({
  name: z.string().min(1).max(40),
  colour: Colour,
  role: z.enum(colourRoles).nullable(),
});
export type HouseColour = z.infer<typeof HouseColour>;

const HouseStyleRecord = z.object({
  version: z.literal(2),
  /** The business's name and address, for fields in words. */
  business: z.string().max(120),
  address: z.string().max(300),
  /** Written into files' metadata; nothing is written when empty. */
  copyright: z.string().max(200),
  /** Who makes the graphics: written into files' metadata too. */
  creator: z.string().max(200).default(''),
  /** Who is to be named where they are shown: written there too. */
  credit: z.string().max(200).default(''),
  /** See `fileName`. */
  namePattern: z.string().min(1).max(120),
  /** Each name and each role once. */
  colours: z.array(HouseColour).max(24),
  type: z.object({ heading: Face, body: Face }),
  logos: z.array(AssetHash).max(12),
  /** What goes over files that are to carry it; null before one was made. */
  watermark: Watermark.nullable().default(null),
});
export type HouseStyle = z.infer<typeof HouseStyleRecord>;

const usual: readonly HouseColour[] = [
  { name: 'White', colour: '#ffffff', role: null },
  { name: 'Cream', colour: '#f4e7cb', role: 'ground' },
  { name: 'Ink', colour: '#1f2a30', role: 'words' },
  { name: 'Clay', colour: '#a4512f', role: 'accent' },
  { name: 'Sage', colour: '#5a7a6b', role: 'second' },
];

/** The style before anyone has set one: no name, no copyright, the usual name pattern, a few colours to hand. */
export const plainHouseStyle: HouseStyle = {
  version: 2,
  business: '',
  address: '',
  copyright: '',
  creator: '',
  credit: '',
  namePattern: DEFAULT_PATTERN,
  colours: [...usual],
  type: {
    heading: { family: 'Bricolage Grotesque', weight: 700, italic: false },
    body: { family: 'Public Sans', weight: 400, italic: false },
  },
  logos: [],
  watermark: null,
};

/** Version 1 had colours without names, no type and no logos. */
export function migrateHouseStyle(value: unknown): unknown {
  const old = value as { version?: unknown; colours?: unknown } | null;
  if (typeof old !== 'object' || old?.version !== 1 || !Array.isArray(old.colours)) return value;
  const colours = old.colours.map(
    (colour: unknown, i) => usual.find((u) => u.colour === colour) ?? { name: `Colour ${i + 1}`, colour, role: null },
  );
  return { ...plainHouseStyle, ...old, version: 2, colours };
}

/** What a business's graphics have in common, as it is read: earlier versions are brought up to date first. */
export const HouseStyle = z.preprocess(migrateHouseStyle, HouseStyleRecord);

/** What fields in words say, the date in the business's own language. */
export function fieldValues(style: HouseStyle, today: Date): Record<FieldName, string> {
  return {
    business: style.business,
    address: style.address,
    date: new Intl.DateTimeFormat('en-GB', { dateStyle: 'long' }).format(today),
  };
}

/** A style with a house colour changed or added (`at` past the end); a role it takes is another's no more. */
export function withHouseColour(style: HouseStyle, at: number, change: Partial<HouseColour>): HouseStyle {
  const { colours } = style;
  const own: HouseColour = { name: 'New colour', colour: '#8a6f4e', role: null, ...colours[at], ...change };
  const taken = colours.some((c, i) => i !== at && c.name.toLowerCase() === own.name.toLowerCase());
  const next = taken ? { ...own, name: `${own.name.slice(0, 36)} ${at + 1}` } : own;
  const rest = colours.map((c, i) => (i !== at && next.role && c.role === next.role ? { ...c, role: null } : c));
  return {
    ...style,
    colours: at < rest.length ? rest.map((c, i) => (i === at ? next : c)) : [...rest, next].slice(0, 24),
  };
}

/** What is wrong with a name pattern, as a sentence; null for a good one. */
export function patternProblem(pattern: string): string | null {
  if (!pattern.trim()) return 'A name needs something in it.';
  const unknown = [...pattern.matchAll(/\{([^}]*)\}?/g)].find(
    ([whole, part]) => !whole.endsWith('}') || !(nameFields as readonly string[]).includes(part!),
  );
  if (unknown) {
    const known = nameFields.map((f) => `{${f}}`);
    return `${unknown[0]} is no part of a name: ${known.slice(0, -1).join(', ')} and ${known.at(-1)} are.`;
  }
  if (!/\{(site|slot|graphic|date)\}|[a-z0-9]/i.test(pattern.replace(/\{(letter|number|density|version|size)\}/g, '')))
    return 'Letters and numbers alone are too little for a name.';
  return null;
}
