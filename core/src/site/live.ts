import type { Pixels } from '../pixels/reduce';
import { part as partOf, type Field } from '../pixels/luminance';
import type { Live } from './sent-file';

/** How a picture that is shown differs from the one that was sent. */
export type Difference =
  | { readonly kind: 're-encoded'; readonly softer: number; readonly levels: number }
  | { readonly kind: 'resized'; readonly levels: number }
  /** Sent px that are missing at each side. */
  | { readonly kind: 'cut'; readonly missing: Readonly<Record<'top' | 'right' | 'bottom' | 'left', number>> }
  /** `by`: share of its encoded lightness that is gone; negative where it was made lighter. */
  | { readonly kind: 'darkened'; readonly by: number }
  /** A part of it is something else: its middle and how much of the picture it is, in shares. */
  | { readonly kind: 'part'; readonly at: { readonly x: number; readonly y: number }; readonly share: number }
  /** Light and dark are as they were, colours are not: mean distance of a channel, levels. */
  | { readonly kind: 'recoloured'; readonly levels: number }
  | { readonly kind: 'other' };

/** Pictures are laid over each other at so many px on their longer side, windows on them at so many. */
const LAID = 96;
const WINDOW = 48;
/** Pearson's correlation from which two pictures are one. Set by eye on the demo's photographs; no source. */
const ALIKE = 0.95;
/** A change of lightness that anyone sees, as a share. No source; Weber fractions of lightness lie at 1 to 2 %. */
const DARKER = 0.06;
/** A part is something else where it lies so many levels off what the rest makes of it, and is so much of the picture. */
const OFF = 22;
const PART = 0.003;
const MOST_PART = 0.2;
/** So many px each way become one before pictures are laid over each other, at the least. */
const MEANED = 3;
/** Channels so far apart, levels, are other colours, not another encoding. */
const RECOLOURED = 9;
/** How much of a picture is looked for where it was cut and made its old size again; and what has to be gained by it. */
const ZOOMS = [0.98, 0.96, 0.94, 0.92, 0.9, 0.86, 0.82, 0.78, 0.74, 0.7];
const GAINED = 0.004;
/** Proportions that differ by less are the same, rounded to whole px. */
const RATIO = 0.015;

/** A weighted sum of channels, 0…255 over white; by itself encoded lightness, by the weights of Rec. ITU-R BT.601. */
function grey(
  { data, width, height }: Pixels,
  [r, g, b]: readonly [number, number, number] = [0.299, 0.587, 0.114],
): Field {
  const out = new Float32Array(width * height);
  for (let i = 0, p = 0; i < out.length; i++, p += 4) {
    const a = data[p + 3]! / 255;
    out[i] = (r * data[p]! + g * data[p + 1]! + b * data[p + 2]!) * a + 255 * (1 - a);
  }
  return { width, height, data: out };
}

/** Where the px of a line of another length lie on it: for each the first px, and the weights of it and those after. */
function covered(from: number, to: number): { first: number; weights: number[] }[] {
  const step = from / to;
  return Array.from({ length: to }, (_, i) => {
    const [start, end] = [i * step, Math.min(from, (i + 1) * step)];
    const first = Math.min(from - 1, Math.floor(start));
    const weights: number[] = [];
    for (let px = first; px < end; px++) weights.push(Math.min(end, px + 1) - Math.max(start, px));
    return { first, weights: weights.map((w) => w / (end - start)) };
  });
}

/** A field of another size, each px the mean of what it covers, parts of px counted as such. */
function meaned(field: Field, width: number, height: number): Field {
  const across = new Float32Array(width * field.height);
  for (const [x, { first, weights }] of covered(field.width, width).entries())
    for (let y = 0; y < field.height; y++) {
      let sum = 0;
      for (let k = 0; k < weights.length; k++) sum += weights[k]! * field.data[y * field.width + first + k]!;
      across[y * width + x] = sum;
    }
  const data = new Float32Array(width * height);
  for (const [y, { first, weights }] of covered(field.height, height).entries())
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let k = 0; k < weights.length; k++) sum += weights[k]! * across[(first + k) * width + x]!;
      data[y * width + x] = sum;
    }
  return { width, height, data };
}

interface Alike {
  /** Pearson's correlation; 1 for two flat fields. */
  readonly correlation: number;
  readonly means: readonly [number, number];
  /** Mean distance, levels of 255. */
  readonly levels: number;
}

/** How much a field is like a window of the same size on another that begins at `x`, `y`. */
function alike(a: Field, b: Field, x = 0, y = 0): Alike {
  let [sa, sb, saa, sbb, sab, apart] = [0, 0, 0, 0, 0, 0];
  for (let v = 0; v < a.height; v++)
    for (let u = 0; u < a.width; u++) {
      const p = a.data[v * a.width + u]!;
      const q = b.data[(y + v) * b.width + x + u]!;
      sa += p;
      sb += q;
      saa += p * p;
      sbb += q * q;
      sab += p * q;
      apart += Math.abs(p - q);
    }
  const n = a.width * a.height;
  const va = Math.max(0, saa / n - (sa / n) ** 2);
  const vb = Math.max(0, sbb / n - (sb / n) ** 2);
  const flat = va < 2 && vb < 2;
  const correlation = flat ? 1 : va < 1e-6 || vb < 1e-6 ? 0 : (sab / n - (sa / n) * (sb / n)) / Math.sqrt(va * vb);
  return { correlation, means: [sa / n, sb / n], levels: apart / n };
}

/** Root mean square of how much a field rises a px: what blurring takes. */
function steepness({ data, width, height }: Field): number {
  let sum = 0;
  for (let y = 0; y + 1 < height; y++)
    for (let x = 0; x + 1 < width; x++) {
      const i = y * width + x;
      sum += (data[i + 1]! - data[i]!) ** 2 + (data[i + width]! - data[i]!) ** 2;
    }
  return Math.sqrt(sum / Math.max(1, (width - 1) * (height - 1)));
}

const longer = (f: { width: number; height: number }) => Math.max(f.width, f.height);

/** Where a picture is to be found on another, shown at `scale` live px a sent px; null where it is not. */
function windowOn(
  sent: Field,
  live: Field,
  scale: number,
): { x: number; y: number; width: number; height: number } | null {
  const [width, height] = [live.width / scale, live.height / scale];
  if (width > sent.width + 1 || height > sent.height + 1) return null;
  const down = Math.min(1, WINDOW / Math.max(width, height));
  const small = meaned(sent, Math.max(1, Math.round(sent.width * down)), Math.max(1, Math.round(sent.height * down)));
  const w = Math.min(small.width, Math.max(1, Math.round(width * down)));
  const h = Math.min(small.height, Math.max(1, Math.round(height * down)));
  const looked = meaned(live, w, h);
  let best = { x: 0, y: 0, correlation: -1 };
  for (let y = 0; y + h <= small.height; y++)
    for (let x = 0; x + w <= small.width; x++) {
      const { correlation } = alike(looked, small, x, y);
      if (correlation > best.correlation) best = { x, y, correlation };
    }
  if (best.correlation < ALIKE) return null;
  return {
    x: Math.min(sent.width - width, (best.x / small.width) * sent.width),
    y: Math.min(sent.height - height, (best.y / small.height) * sent.height),
    width,
    height,
  };
}

const channels = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
] as const;

/** How far a channel of two pictures lies apart, levels, laid over each other. */
function meanApart(a: Pixels, b: Pixels, channel: (typeof channels)[number], w: number, h: number): number {
  return alike(meaned(grey(a, channel), w, h), meaned(grey(b, channel), w, h)).levels;
}

const median = (all: number[]) => all.sort((a, b) => a - b)[all.length >> 1] ?? 1;

/**
 * How much alike two laid pictures are but for a part of them, and that part: where one is not what the rest of it makes
 * of the other. Null where there is none.
 */
function robustly(a: Field, b: Field): { correlation: number; off: Extract<Difference, { kind: 'part' }> | null } {
  const ratios: number[] = [];
  for (let i = 0; i < a.data.length; i++) if (a.data[i]! > 16) ratios.push(b.data[i]! / a.data[i]!);
  const gain = median(ratios);
  let [count, x, y] = [0, 0, 0];
  const filled = b.data.slice();
  for (let i = 0; i < a.data.length; i++) {
    if (Math.abs(b.data[i]! - gain * a.data[i]!) < OFF) continue;
    count++;
    x += i % a.width;
    y += Math.floor(i / a.width);
    filled[i] = gain * a.data[i]!;
  }
  const share = count / a.data.length;
  if (share < PART || share > MOST_PART) return { correlation: alike(a, b).correlation, off: null };
  const { correlation } = alike(a, { ...b, data: filled });
  return { correlation, off: { kind: 'part', at: { x: x / count / a.width, y: y / count / a.height }, share } };
}

const smallest = (a: Field, b: Field) => Math.min(longer(a), longer(b));

/** What is missing at each side where a middle part of a picture was made as large as all of it; null where it was not. */
function zoomedIn(sent: Field, live: Field, whole: number): Extract<Difference, { kind: 'cut' }>['missing'] | null {
  let best: { zoom: number; correlation: number } | null = null;
  const by = Math.min(1, (4 * LAID) / longer(sent));
  const small = by < 1 ? meaned(sent, Math.round(sent.width * by), Math.max(1, Math.round(sent.height * by))) : sent;
  for (const zoom of ZOOMS) {
    const [width, height] = [small.width * zoom, small.height * zoom].map((n) => Math.max(1, Math.round(n))) as [
      number,
      number,
    ];
    const [x, y] = [Math.round((small.width - width) / 2), Math.round((small.height - height) / 2)];
    const middle = partOf(small, { x, y, width, height });
    const { correlation } = alike(meaned(middle, live.width, live.height), live);
    if (correlation > (best?.correlation ?? 0)) best = { zoom, correlation };
  }
  if (!best || best.correlation < ALIKE || best.correlation < whole + GAINED) return null;
  const [across, down] = [sent.width, sent.height].map((n) => Math.round((n * (1 - best.zoom)) / 2)) as [
    number,
    number,
  ];
  return { top: down, right: across, bottom: down, left: across };
}

/** How what a visitor is shown differs from what was sent, both straight alpha, encoded sRGB, seen over white. */
export function differenceOf(sentPixels: Pixels, livePixels: Pixels): Difference {
  const [sent, live] = [grey(sentPixels), grey(livePixels)];
  const same = sent.width === live.width && sent.height === live.height;
  const ratio = live.width / live.height / (sent.width / sent.height);
  if (Math.abs(Math.log(ratio)) < RATIO) {
    // Each px the mean of several, so that what encoding does to single ones is not looked at.
    const down = Math.min(1, LAID / longer(sent), LAID / longer(live), smallest(sent, live) / MEANED / longer(sent));
    const [w, h] = [sent.width * down, sent.height * down].map((n) => Math.max(1, Math.round(n))) as [number, number];
    const laid = [meaned(sent, w, h), meaned(live, w, h)] as const;
    const { means, levels, correlation: plain } = alike(...laid);
    const { correlation, off } = robustly(...laid);
    const zoomed = plain < 0.999 ? zoomedIn(sent, laid[1], plain) : null;
    if (zoomed) return { kind: 'cut', missing: zoomed };
    if (correlation >= ALIKE) {
      if (off) return off;
      const by = 1 - means[1] / Math.max(1, means[0]);
      if (Math.abs(by) >= DARKER) return { kind: 'darkened', by };
      const colours = Math.max(...channels.map((c) => meanApart(sentPixels, livePixels, c, w, h)));
      if (colours >= RECOLOURED) return { kind: 'recoloured', levels: colours };
      if (!same) return { kind: 'resized', levels };
      const softer = Math.max(0, 1 - steepness(live) / Math.max(1e-6, steepness(sent)));
      return { kind: 're-encoded', softer, levels: alike(sent, live).levels };
    }
  }
  for (const scale of [1, Math.max(live.width / sent.width, live.height / sent.height)]) {
    const found = windowOn(sent, live, scale);
    if (!found) continue;
    const px = (n: number) => Math.max(0, Math.round(n));
    const missing = {
      top: px(found.y),
      right: px(sent.width - found.x - found.width),
      bottom: px(sent.height - found.y - found.height),
      left: px(found.x),
    };
    if (Object.values(missing).some((n) => n > 0)) return { kind: 'cut', missing };
  }
  return { kind: 'other' };
}

const percent = (share: number) => `${Math.max(1, Math.round(Math.abs(share) * 100))} %`;

/** What was found at an address; digests are of bytes. */
export interface Looked {
  readonly status: number;
  readonly sha256: string;
  /** What a look past caches found; null where none was made. */
  readonly fresh: { readonly status: number; readonly sha256: string } | null;
  readonly age: number | null;
  readonly size: { readonly width: number; readonly height: number } | null;
  /** Null where it is no picture, or the same bytes. */
  readonly difference: Difference | null;
}

/** What a visitor is shown of a file that was sent, in words; `earlier` are digests of what stood there before. */
export function liveOf(
  sent: { readonly sha256: string; readonly width: number; readonly height: number },
  looked: Looked,
  at: string,
  earlier: readonly string[] = [],
): Live {
  const say = (word: Live['word'], said: string): Live => ({ word, said, at });
  const { status, fresh, difference, size } = looked;
  if (status === 404 || status === 410) {
    if (fresh?.status === 200)
      return say('cached', 'A cache still says that nothing is there; it shows once that has run out.');
    return say('gone', `Nothing is there (${status}).`);
  }
  if (status !== 200) return say('silent', `The site answers ${status} there, and shows no picture.`);
  if (looked.sha256 === sent.sha256) return say('as-sent', 'The file that was sent: the same bytes.');
  if (fresh?.status === 200 && fresh.sha256 === sent.sha256)
    return say(
      'cached',
      `An old copy from a cache${looked.age === null ? '' : `, ${agedText(looked.age)} old`}; the new one is behind it and shows once that has run out.`,
    );
  if (earlier.includes(looked.sha256))
    return say('other', 'An earlier file of yours stands there again, not the one that was sent last.');
  if (!difference) return say('other', 'What stands there is no picture.');
  switch (difference.kind) {
    case 're-encoded':
      return say(
        're-encoded',
        difference.softer < 0.005
          ? `Re-encoded by the site, no softer to see (${difference.levels.toFixed(1)} of 255 levels apart).`
          : `Re-encoded by the site: ${percent(difference.softer)} softer.`,
      );
    case 'resized':
      return say(
        'resized',
        `Made ${size ? `${size.width} × ${size.height} px` : 'another size'} by the site; ${sent.width} × ${sent.height} were sent.`,
      );
    case 'darkened':
      return say(
        'darkened',
        `${percent(difference.by)} ${difference.by > 0 ? 'darker' : 'lighter'} than what was sent.`,
      );
    case 'cut': {
      const sides = (['top', 'right', 'bottom', 'left'] as const).filter((s) => difference.missing[s] > 0);
      return say(
        'cut',
        `The site cut it: ${sides.map((s) => `${difference.missing[s]} px at the ${s}`).join(', ')} missing.`,
      );
    }
    case 'part': {
      const { x, y } = difference.at;
      const where = [y < 0.34 ? 'upper' : y > 0.66 ? 'lower' : '', x < 0.34 ? 'left' : x > 0.66 ? 'right' : ''];
      const place = where.filter(Boolean).join(' ') || 'middle';
      return say('changed', `Part of it is not what was sent: ${percent(difference.share)} of it, at the ${place}.`);
    }
    case 'recoloured':
      return say('changed', 'Its colours are not those that were sent.');
    case 'other':
      return say('other', 'Another picture stands there, not the one that was sent.');
  }
}

/** Seconds in words. */
function agedText(seconds: number): string {
  const [n, unit] =
    seconds < 90
      ? [seconds, 'second']
      : seconds < 5400
        ? [seconds / 60, 'minute']
        : seconds < 129_600
          ? [seconds / 3600, 'hour']
          : [seconds / 86_400, 'day'];
  const whole = Math.round(n);
  return `${whole} ${unit}${whole === 1 ? '' : 's'}`;
}
