import { SaxesParser, type SaxesTagNS } from 'saxes';
import { bad, good, type Result } from '../problem';

export const SVG_NS = 'http://www.w3.org/2000/svg';

/** What a drawing may hold; a person is told which of these it is beyond. Measured: within them one is drawn in a second. */
export const drawingLimits = {
  bytes: 8 * 2 ** 20,
  /** Bytes before the root element within which it has to begin. */
  head: 2 * 2 ** 20,
  elements: 20_000,
  /** Elements once every `use` stands for what it points to. */
  expanded: 40_000,
  attributes: 200,
  depth: 120,
  points: 60_000,
  /** Letters of style sheets and style attributes together, and of all words. */
  css: 200_000,
  letters: 50_000,
  /** Filter effects, and pixels of the pictures within it. */
  effects: 60,
  pixels: 25e6,
} as const;

const labelOf = (bytes: Uint8Array): string => {
  const [a, b] = [bytes[0], bytes[1]];
  if (a === 0xfe && b === 0xff) return 'utf-16be';
  if (a === 0xff && b === 0xfe) return 'utf-16le';
  // XML 1.0 (Fifth Edition), appendix F.1: "<" in two bytes.
  if (a === 0 && b === 0x3c) return 'utf-16be';
  if (a === 0x3c && b === 0) return 'utf-16le';
  return 'utf-8';
};

/** A drawing's text by its first bytes: UTF-8 or UTF-16 (XML 1.0, section 4.3.3), without its byte order mark. */
export function xmlText(bytes: Uint8Array): string {
  return new TextDecoder(labelOf(bytes)).decode(bytes).replace(/^\uFEFF/, '');
}

/** Why a drawing is not taken, thrown out of the parser. */
export class DrawingRefused extends Error {
  constructor(
    readonly code: string,
    /** What follows the drawing's name. */
    message: string,
  ) {
    super(message);
  }
}

/** The refusal of a drawing that is beyond a limit; `what` follows its name. */
export const beyondDrawing = (what: string): DrawingRefused =>
  new DrawingRefused('too-large', `${what} Simplify it where it was drawn, or save it as a PNG.`);

const damaged = () =>
  new DrawingRefused(
    'unreadable',
    'is an SVG that cannot be read: it breaks off, or is damaged. Save it anew and try again.',
  );

const entities = () =>
  new DrawingRefused(
    'svg-entities',
    'is an SVG that defines entities of its own, which can hide harm. Save it as plain SVG and try again.',
  );

/** What goes through a drawing: elements in order, text and CDATA between them. */
export interface DrawingVisitor {
  open(tag: SaxesTagNS, depth: number): void;
  close(tag: SaxesTagNS, depth: number): void;
  text?(text: string): void;
}

const PIECE = 65_536;

/** Whether an element is one of SVG's; those that name no namespace at all are taken for it. */
export const isSvg = (tag: SaxesTagNS): boolean => tag.uri === SVG_NS || tag.uri === '';

/**
 * Goes through a drawing (text) once, from front to back, within its limits: the time it takes grows with its length
 * and no faster. Throws `DrawingRefused`.
 */
export function walkDrawing(text: string, visitor: DrawingVisitor): void {
  let depth = 0;
  let elements = 0;
  const parser = new SaxesParser({ xmlns: true, position: false });
  let attributes = 0;
  parser.on('error', () => {
    throw damaged();
  });
  parser.on('doctype', (doctype) => {
    if (/\[|<!ENTITY/i.test(doctype)) throw entities();
  });
  parser.on('opentagstart', () => {
    attributes = 0;
  });
  parser.on('attribute', () => {
    if (++attributes > drawingLimits.attributes)
      throw beyondDrawing(`holds an element with more than ${drawingLimits.attributes} attributes.`);
  });
  parser.on('opentag', (tag) => {
    if (depth === 0 && (tag.local !== 'svg' || !isSvg(tag))) throw damaged();
    if (++elements > drawingLimits.elements)
      throw beyondDrawing(`holds more than ${drawingLimits.elements.toLocaleString('en-GB')} elements.`);
    if (depth >= drawingLimits.depth) throw beyondDrawing(`is nested more than ${drawingLimits.depth} deep.`);
    visitor.open(tag, depth++);
  });
  parser.on('closetag', (tag) => visitor.close(tag, --depth));
  parser.on('text', (t) => visitor.text?.(t));
  parser.on('cdata', (t) => visitor.text?.(t));
  try {
    for (let i = 0; i < text.length; i += PIECE) parser.write(text.slice(i, i + PIECE));
    parser.close();
  } catch (error) {
    throw error instanceof DrawingRefused ? error : damaged();
  }
  if (elements === 0) throw damaged();
}

class Found extends Error {
  constructor(readonly tag: SaxesTagNS) {
    super();
  }
}

export interface Root {
  readonly tag: SaxesTagNS;
  /** Whether what stands before it defines entities. */
  readonly entities: boolean;
}

/** The root element of an XML text, whatever stands before it; null where there is none within the head. */
export function rootOf(text: string): Root | null {
  let entities = false;
  const parser = new SaxesParser({ xmlns: true, position: false });
  parser.on('error', (error) => {
    throw error;
  });
  let attributes = 0;
  parser.on('doctype', (doctype) => {
    entities = /\[|<!ENTITY/i.test(doctype);
  });
  parser.on('attribute', () => {
    if (++attributes > drawingLimits.attributes) throw new Error('too many');
  });
  parser.on('opentag', (tag) => {
    throw new Found(tag);
  });
  const most = Math.min(text.length, drawingLimits.head);
  try {
    for (let i = 0; i < most; i += PIECE) parser.write(text.slice(i, Math.min(most, i + PIECE)));
  } catch (error) {
    if (error instanceof Found) return { tag: error.tag, entities };
  }
  return null;
}

/** A start that may be a drawing's: "<" after white space, in one or two bytes a letter. */
export function mayBeXml(bytes: Uint8Array): boolean {
  let i = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0;
  if ((bytes[0] === 0xfe && bytes[1] === 0xff) || (bytes[0] === 0xff && bytes[1] === 0xfe)) i = 2;
  const most = Math.min(bytes.length, drawingLimits.head);
  while (i < most && [0, 9, 10, 13, 32].includes(bytes[i]!)) i++;
  return bytes[i] === 0x3c;
}

/** CSS px a unit. CSS Values and Units 4, section 6.2; a plain number is px (SVG 2, section 8.9). */
const pxPer: ReadonlyMap<string, number> = new Map([
  ['', 1],
  ['px', 1],
  ['in', 96],
  ['cm', 96 / 2.54],
  ['mm', 96 / 25.4],
  ['q', 96 / 101.6],
  ['pt', 96 / 72],
  ['pc', 16],
]);

/** A length in CSS px; null for one that has no size of its own (a share, `auto`, nothing). */
function pxOf(text: string | undefined): number | null {
  const read = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)([a-z]*)$/i.exec((text ?? '').trim().slice(0, 100));
  const by = read && pxPer.get(read[2]!.toLowerCase());
  const px = by === undefined || !read ? NaN : Number(read[1]) * (by ?? NaN);
  return px > 0 && Number.isFinite(px) ? px : null;
}

/** `viewBox`: four numbers, any white space or commas between them. SVG 2, section 8.6. */
function viewBoxOf(text: string | undefined): { x: number; y: number; width: number; height: number } | null {
  const parts = (text ?? '')
    .slice(0, 400)
    .trim()
    .split(/[\s,]+/);
  const [x, y, width, height] = parts.map(Number);
  if (parts.length !== 4 || ![x, y, width, height].every(Number.isFinite)) return null;
  return width! > 0 && height! > 0 ? { x: x!, y: y!, width: width!, height: height! } : null;
}

/** What a browser takes where nothing is said. CSS 2, section 10.3.2. */
const USUAL = { width: 300, height: 150 };
/** The sizes a drawing is given here: it has no pixels of its own, only proportions. */
const LARGEST = 8192;
const LEAST = 1;

export interface DrawingSize {
  /** The size it is taken to have, CSS px: its own, brought within what can be worked with, in proportion. */
  readonly width: number;
  readonly height: number;
  /** Its `viewBox`, said or following from its size. */
  readonly viewBox: string;
}

/** A drawing's size and `viewBox` from its root's attributes. SVG 2, sections 7.12 and 8.6. */
export function drawingSize(root: SaxesTagNS): DrawingSize {
  const said = (name: string) => root.attributes[name]?.value;
  const box = viewBoxOf(said('viewBox'));
  const [w, h] = [pxOf(said('width')), pxOf(said('height'))];
  const ratio = box ? box.width / box.height : null;
  const own = {
    width: w ?? (h && ratio ? h * ratio : (box?.width ?? USUAL.width)),
    height: h ?? (w && ratio ? w / ratio : (box?.height ?? USUAL.height)),
  };
  const longest = Math.max(own.width, own.height);
  const by = longest > LARGEST ? LARGEST / longest : longest < 16 ? 16 / longest : 1;
  const within = (n: number) => Math.max(LEAST, n * by);
  return {
    width: within(own.width),
    height: within(own.height),
    viewBox: box ? `${box.x} ${box.y} ${box.width} ${box.height}` : `0 0 ${own.width} ${own.height}`,
  };
}

/** How many numbers a path's data or a list of points holds. */
export function numbersIn(text: string): number {
  let count = 0;
  let within = false;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    const digit = c >= 48 && c <= 57;
    if (digit && !within) count++;
    within = digit || c === 46;
  }
  return count;
}

/** Numbers that a path's command takes at a time, and which of them end at the new place. SVG 2, section 9.3. */
const TAKES: ReadonlyMap<string, number> = new Map(
  Object.entries({ m: 2, l: 2, h: 1, v: 1, c: 6, s: 4, q: 4, t: 2, a: 7 }),
);

/**
 * How often the lines of a path (`d`) or a list of points run across its own size: what drawing it costs goes with
 * that, whatever its scale. A scribble of 20 000 points from side to side runs across some 6 600 times, and took
 * Chromium 0.4 s; of 40 000, 2 s. Approximate: curves count as their chords.
 */
export function runsAcross(data: string): number {
  let [x, y, run] = [0, 0, 0];
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  let command = 'L';
  let taken: number[] = [];
  const step = (toX: number, toY: number, drawn: boolean) => {
    if (drawn) run += Math.abs(toX - x) + Math.abs(toY - y);
    [x, y] = [toX, toY];
    [left, right] = [Math.min(left, x), Math.max(right, x)];
    [top, bottom] = [Math.min(top, y), Math.max(bottom, y)];
  };
  for (const [token] of data.matchAll(/[a-df-z]|[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?/gi)) {
    if (/[a-z]/i.test(token[0]!)) {
      command = token;
      taken = [];
      continue;
    }
    taken.push(Number(token));
    const kind = command.toLowerCase();
    if (taken.length < (TAKES.get(kind) ?? 2)) continue;
    const [fromX, fromY] = command === kind ? [x, y] : [0, 0];
    const last = taken.at(-1)!;
    if (kind === 'h') step(fromX + last, y, true);
    else if (kind === 'v') step(x, fromY + last, true);
    else step(fromX + taken.at(-2)!, fromY + last, kind !== 'm');
    // What follows a place to begin at is drawn (SVG 2, section 9.3.3).
    if (kind === 'm') command = command === 'm' ? 'l' : 'L';
    taken = [];
  }
  const size = right - left + (bottom - top);
  return size > 0 && Number.isFinite(run / size) ? run / size : 0;
}

/** Counts points as they come. */
export function pointCounter(): (text: string | undefined) => void {
  let numbers = 0;
  return (text) => {
    if (text) numbers += numbersIn(text);
    if (numbers > drawingLimits.points * 2)
      throw beyondDrawing(`has more than ${drawingLimits.points.toLocaleString('en-GB')} points.`);
  };
}

/** What a drawing that was given up is answered with. */
export function refusedDrawing(error: unknown, called: string): ReturnType<typeof bad> {
  const why = error instanceof DrawingRefused ? error : damaged();
  return bad(why.code, `${called} ${why.message} Nothing was changed.`);
}

/** A drawing's text where it is not too large. */
export function drawingText(bytes: Uint8Array, called: string): Result<string> {
  if (bytes.length > drawingLimits.bytes)
    return bad(
      'too-heavy',
      `${called} is a drawing of ${Math.ceil(bytes.length / 2 ** 20)} MB; ${drawingLimits.bytes / 2 ** 20} MB is the most. Simplify it where it was drawn, or save it as a PNG.`,
    );
  return good(xmlText(bytes));
}
