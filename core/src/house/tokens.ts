import { clampRgb, converter, formatHex, parse, type Color } from 'culori';
import { bad, good, type Result } from '../problem';
import { channelsOf } from '../colour/srgb';
import { HouseColour, colourRoles, type ColourRole, type HouseStyle } from './house-style';

const toRgb = converter('rgb');

/** Under this name the format lets a program write what it has beside it. */
const OWN = 'bright-slot';

const keyOf = (name: string) =>
  name
    .toLowerCase()
    .replace(/[{}.$]/g, '')
    .replace(/\s+/g, '-') || 'colour';

const figure = (n: number) => Math.round(n * 1e4) / 1e4;

/**
 * A house style as design tokens: colours and the two faces. Design Tokens Format Module and Color Module of the Design
 * Tokens Community Group (2025.10): section "Color type", "Font family", "Font weight"; roles stand under `$extensions`.
 */
export function toTokens(style: HouseStyle): unknown {
  const colour = Object.fromEntries(
    style.colours.map(({ name, colour: hex, role }) => [
      keyOf(name),
      {
        $value: { colorSpace: 'srgb', components: channelsOf(hex).map((n) => figure(n / 255)), alpha: 1, hex },
        $description: name,
        ...(role ? { $extensions: { [OWN]: { role } } } : {}),
      },
    ]),
  );
  const type = Object.fromEntries(
    Object.entries(style.type).map(([use, face]) => [
      use,
      {
        family: {
          $type: 'fontFamily',
          $value: face.family,
          ...(face.italic ? { $extensions: { [OWN]: { italic: true } } } : {}),
        },
        weight: { $type: 'fontWeight', $value: face.weight },
      },
    ]),
  );
  return { colour: { $type: 'color', ...colour }, type };
}

/** What culori calls the format's colour spaces, and by what their components are to be divided. */
const spaces: ReadonlyMap<string, { mode: string; channels: readonly string[]; by?: readonly number[] }> = new Map(
  Object.entries({
    srgb: { mode: 'rgb', channels: ['r', 'g', 'b'] },
    'srgb-linear': { mode: 'lrgb', channels: ['r', 'g', 'b'] },
    'display-p3': { mode: 'p3', channels: ['r', 'g', 'b'] },
    'a98-rgb': { mode: 'a98', channels: ['r', 'g', 'b'] },
    'prophoto-rgb': { mode: 'prophoto', channels: ['r', 'g', 'b'] },
    rec2020: { mode: 'rec2020', channels: ['r', 'g', 'b'] },
    hsl: { mode: 'hsl', channels: ['h', 's', 'l'], by: [1, 100, 100] },
    hwb: { mode: 'hwb', channels: ['h', 'w', 'b'], by: [1, 100, 100] },
    lab: { mode: 'lab', channels: ['l', 'a', 'b'] },
    lch: { mode: 'lch', channels: ['l', 'c', 'h'] },
    oklab: { mode: 'oklab', channels: ['l', 'a', 'b'] },
    oklch: { mode: 'oklch', channels: ['l', 'c', 'h'] },
    'xyz-d65': { mode: 'xyz65', channels: ['x', 'y', 'z'] },
    'xyz-d50': { mode: 'xyz50', channels: ['x', 'y', 'z'] },
  }),
);

const record = (value: unknown): Record<string, unknown> | null =>
  typeof value === 'object' && value !== null && !Array.isArray(value) ? (value as Record<string, unknown>) : null;

/** A colour token's value as `#rrggbb` within sRGB; null where it is none. Text (`#a4512f`) is what earlier drafts had. */
function hexOf(value: unknown): string | null {
  if (typeof value === 'string') {
    const read = parse(value);
    return read ? formatHex(clampRgb(toRgb(read))) : null;
  }
  const v = record(value);
  const space = v && typeof v['colorSpace'] === 'string' ? spaces.get(v['colorSpace']) : undefined;
  if (!v || !space || !Array.isArray(v['components'])) return null;
  const components = v['components'] as unknown[];
  if (components.length !== 3) return null;
  const channels = components.map((c, i) => (c === 'none' ? 0 : Number(c) / (space.by?.[i] ?? 1)));
  if (!channels.every(Number.isFinite)) return null;
  const colour = { mode: space.mode, ...Object.fromEntries(space.channels.map((n, i) => [n, channels[i]!])) };
  return formatHex(clampRgb(toRgb(colour as unknown as Color)));
}

interface Token {
  readonly path: readonly string[];
  readonly type: string | undefined;
  readonly value: unknown;
  readonly token: Record<string, unknown>;
}

const DEEPEST = 12;

function tokensOf(group: Record<string, unknown>, path: readonly string[], inherited: string | undefined): Token[] {
  if (path.length > DEEPEST) return [];
  const type = typeof group['$type'] === 'string' ? group['$type'] : inherited;
  if ('$value' in group) return [{ path, type, value: group['$value'], token: group }];
  return Object.entries(group).flatMap(([key, value]) => {
    const inner = key.startsWith('$') ? null : record(value);
    return inner ? tokensOf(inner, [...path, key], type) : [];
  });
}

/** What an alias (`{colour.clay}`) stands for; a ring of them stands for nothing. */
function resolved(token: Token, all: ReadonlyMap<string, Token>, seen = 0): Token | null {
  const alias = typeof token.value === 'string' ? /^\{(.+)\}$/.exec(token.value)?.[1] : undefined;
  if (alias === undefined) return token;
  const next = all.get(alias);
  return next && seen < 20 ? resolved({ ...next, path: token.path, token: token.token }, all, seen + 1) : null;
}

const ownOf = ({ token }: Token) => record(record(token['$extensions'])?.[OWN]) ?? {};

/** What design tokens hold of a house style: their colours, by name, and a heading's and a body's face. */
export function fromTokens(text: string): Result<Pick<HouseStyle, 'colours'> & { type: Partial<HouseStyle['type']> }> {
  let root: Record<string, unknown> | null;
  try {
    root = record(JSON.parse(text));
  } catch {
    root = null;
  }
  if (!root)
    return bad('unreadable', 'This is no file of design tokens: it is not JSON, or cut off. Nothing was changed.');
  const list = tokensOf(root, [], undefined);
  const all = new Map(list.map((t) => [t.path.join('.'), t]));
  const colours: HouseColour[] = [];
  const faces: Record<string, { family?: string; weight?: number; italic?: boolean }> = {};
  for (const token of list) {
    const real = resolved(token, all);
    if (!real) continue;
    const hex = real.type === 'color' ? hexOf(real.value) : null;
    if (hex && colours.length < 24) {
      const said = token.token['$description'];
      const plain = token.path.at(-1)!.replace(/[-_]+/g, ' ');
      const given =
        typeof said === 'string' && said.length <= 40 && said ? said : plain[0]!.toUpperCase() + plain.slice(1);
      const name = colours.some((c) => c.name === given) ? token.path.join(' ').slice(0, 40) : given.slice(0, 40);
      const role = ownOf(token)['role'] as ColourRole;
      const free = colourRoles.includes(role) && !colours.some((c) => c.role === role);
      const colour = HouseColour.safeParse({ name, colour: hex, role: free ? role : null });
      if (colour.success) colours.push(colour.data);
    }
    const use = token.path.find((p) => p === 'heading' || p === 'body');
    if (!use) continue;
    const face = (faces[use] ??= {});
    const value = real.type === 'typography' ? record(real.value) : null;
    const family = value ? value['fontFamily'] : real.type === 'fontFamily' ? real.value : undefined;
    const weight = value ? value['fontWeight'] : real.type === 'fontWeight' ? real.value : undefined;
    const first: unknown = Array.isArray(family) ? family[0] : family;
    if (typeof first === 'string' && first) {
      face.family ??= first.slice(0, 80);
      face.italic ??= ownOf(token)['italic'] === true;
    }
    if (typeof weight === 'number' && weight >= 1 && weight <= 1000) face.weight ??= weight;
  }
  if (!colours.length && !Object.values(faces).some((f) => f.family))
    return bad('empty', 'These design tokens hold no colour and no type that can be used. Nothing was changed.');
  const type = Object.fromEntries(
    Object.entries(faces).flatMap(([use, { family, weight = 400, italic = false }]) =>
      family ? [[use, { family, weight, italic }]] : [],
    ),
  );
  return good({ colours, type });
}
