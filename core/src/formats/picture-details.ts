import { clamp } from '../geometry/clamp';
import { gps, parse } from 'exifr';
import { isWhole } from './identify';
import type { PictureType } from './registry';

/** What a picture's file says of itself beside its pixels. */
export interface PictureDetails {
  /** Pixels an inch; null where none is written. */
  readonly ppi: number | null;
  /** The colour profile's name; null where none is written, which browsers take for sRGB. */
  readonly profile: string | null;
}

const ascii = (b: Uint8Array, at: number, length: number) => String.fromCharCode(...b.subarray(at, at + length));

/** The data of each PNG chunk before the pixels. PNG (Third Edition), section 5.3. */
function* pngChunks(b: Uint8Array): Generator<{ type: string; data: Uint8Array }> {
  const view = new DataView(b.buffer, b.byteOffset, b.length);
  for (let i = 8; i + 12 <= b.length;) {
    const length = view.getUint32(i);
    const type = ascii(b, i + 4, 4);
    if (type === 'IDAT' || i + 12 + length > b.length) return;
    yield { type, data: b.subarray(i + 8, i + 8 + length) };
    i += 12 + length;
  }
}

/** PNG (Third Edition), sections 11.3.2.3 (iCCP), 11.3.2.5 (sRGB) and 11.3.4.3 (pHYs: pixels a metre). */
function pngDetails(bytes: Uint8Array): PictureDetails {
  let ppi: number | null = null;
  let profile: string | null = null;
  for (const { type, data } of pngChunks(bytes)) {
    if (type === 'pHYs' && data.length >= 9 && data[8] === 1)
      ppi = new DataView(data.buffer, data.byteOffset).getUint32(0) * 0.0254;
    if (type === 'iCCP') profile = ascii(data, 0, clamp(data.indexOf(0), 0, 79));
    if (type === 'sRGB') profile = 'sRGB';
  }
  return { ppi, profile };
}

/** Whether a picture's file tells where it was taken: Exif (CIPA DC-008), GPS tags of a latitude and a longitude. */
export async function isLocated(bytes: Uint8Array, type: PictureType): Promise<boolean> {
  // The library goes by lengths that it does not check.
  if ((type !== 'jpeg' && type !== 'avif') || !isWhole(type, bytes)) return false;
  try {
    const found = (await gps(bytes)) as { latitude?: number; longitude?: number } | undefined;
    return Number.isFinite(found?.latitude) && Number.isFinite(found?.longitude);
  } catch {
    return false;
  }
}

/** Reads what a picture's file says of its density and colours; nulls where it says nothing or cannot be read. */
export async function pictureDetails(bytes: Uint8Array, type: PictureType): Promise<PictureDetails> {
  if (type === 'png') return pngDetails(bytes);
  // The library goes by lengths that it does not check.
  if ((type !== 'jpeg' && type !== 'avif') || !isWhole(type, bytes)) return { ppi: null, profile: null };
  try {
    const options = { jfif: true, tiff: true, icc: true, exif: false, gps: false, xmp: false, iptc: false };
    const found = ((await parse(bytes, options)) ?? {}) as Record<string, unknown>;
    const resolution = Number(found['XResolution']);
    const inCm = found['ResolutionUnit'] === 'cm';
    const written = Number.isFinite(resolution) && resolution > 1 && found['ResolutionUnit'] !== 'none';
    const profile = found['ProfileDescription'];
    return {
      ppi: written ? resolution * (inCm ? 2.54 : 1) : null,
      profile: typeof profile === 'string' ? profile.slice(0, 80) : null,
    };
  } catch {
    return { ppi: null, profile: null };
  }
}
