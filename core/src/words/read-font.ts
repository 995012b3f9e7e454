import { clamp } from '../geometry/clamp';
import { parse, type ParsedFont } from 'opentype.js';
import { bad, good, type Result } from '../problem';
import type { BroughtFont } from './brought-font';

const named = (names: ParsedFont['names'], key: string): string => {
  const entry = names[key];
  return (entry?.['en'] ?? Object.values(entry ?? {})[0] ?? '').replace(/\s+/g, ' ').trim();
};

/** What OS/2 `fsType` forbids. OpenType 1.9, OS/2 table, fsType. */
const RESTRICTED = 0x0002;

const STYLES = /^(regular|roman|book|normal)$/i;

/**
 * Reads a bare OpenType font: its name, weights and what it says of its licence. Whether its letters can really be
 * drawn is for the shaper to try. Errors are sentences.
 */
export function readFont(bytes: Uint8Array, file: string): Result<Omit<BroughtFont, 'hash' | 'added'>> {
  const damaged = bad(
    'damaged',
    `“${file}” cannot be read as a font: it is cut off, damaged, or something else under a font’s name. Bring the file again from where it came.`,
  );
  try {
    const buffer = bytes.slice().buffer;
    const font = parse(buffer);
    if (!(font.unitsPerEm >= 16 && font.unitsPerEm <= 16384) || font.glyphs.length < 2) return damaged;
    const letters = 'AEOaeo'.split('').filter((c) => font.charToGlyphIndex(c) > 0);
    if (letters.length < 6)
      return bad('no-letters', `“${file}” has none of the letters A to Z, so words cannot be set in it.`);
    const os2 = font.tables.os2;
    const style = named(font.names, 'preferredSubfamily') || named(font.names, 'fontSubfamily');
    const base =
      named(font.names, 'preferredFamily') || named(font.names, 'fontFamily') || file.replace(/\.[a-z0-9]+$/i, '');
    const axis = font.tables.fvar?.axes.find((a) => a.tag === 'wght');
    const weight = clamp(os2?.usWeightClass || 400, 1, 1000);
    const licence = [
      os2 && (os2.fsType & 0x000f) === RESTRICTED ? 'The file says: not to be embedded without its maker’s leave.' : '',
      named(font.names, 'license'),
      named(font.names, 'copyright'),
    ]
      .filter(Boolean)
      .join(' ');
    const family = (axis || !style || STYLES.test(style) ? base : `${base} ${style}`).slice(0, 80).trim();
    return good({
      family: family || 'A font',
      weights: axis ? [Math.max(1, axis.minValue), Math.min(1000, axis.maxValue)] : [weight, weight],
      italic: ((os2?.fsSelection ?? 0) & 1) === 1,
      licence: licence.slice(0, 1000),
    });
  } catch {
    return damaged;
  }
}
