import encodeJpeg, { init as initJpeg } from '@jsquash/jpeg/encode.js';
import { defaultOptions as avifDefaults } from '@jsquash/avif/meta.js';
import initPng, { optimise_raw } from '@jsquash/oxipng/codec/pkg/squoosh_oxipng.js';
import {
  pictureFormats,
  withNotes,
  type Chroma,
  type FileDifference,
  type FileFormat,
  type FileNotes,
} from '@bright-slot/core';
import { differenceFrom } from './file-difference';
import { ownFile } from '../../storage/own-file';

const wasm = (name: string) => WebAssembly.compileStreaming(ownFile(`/wasm/${name}`));

/** What is loaded once; should that fail, the next to ask tries again. */
function once<T>(load: () => Promise<T>): () => Promise<T> {
  let ready: Promise<T> | undefined;
  return () =>
    (ready ??= load().catch((error: unknown) => {
      ready = undefined;
      throw error;
    }));
}

const codecs: Partial<Record<FileFormat, () => Promise<unknown>>> = {
  // The shipped types of `init` lack the compiled module.
  jpeg: once(async () => (initJpeg as (m: WebAssembly.Module) => Promise<void>)(await wasm('mozjpeg_enc.wasm'))),
  png: once(async () => initPng(await wasm('squoosh_oxipng_bg.wasm'))),
};

interface AvifEncoder {
  encode(data: Uint8Array, width: number, height: number, options: typeof avifDefaults): Uint8Array | null;
}
/** AV1 in one thread: the package’s own entry would take several workers beside ours. */
const avif = once(async () => {
  const { default: encoder } = (await import('@jsquash/avif/codec/enc/avif_enc.js')) as { default: unknown };
  const { initEmscriptenModule } = await import('@jsquash/avif/utils.js');
  // The shipped types lean on globals that are nowhere.
  const make = initEmscriptenModule as unknown as (
    encoder: unknown,
    module: WebAssembly.Module,
  ) => Promise<AvifEncoder>;
  return make(encoder, await wasm('avif_enc.wasm'));
});
/** Faster ones are larger, slower ones take seconds; see docs/decisions.md. */
const AVIF_SPEED = 8;

/** Has a format's codec loaded beside other work; that it fails is told when it is asked for. */
export function warmUp(format: FileFormat): void {
  codecs[format]?.().catch(() => undefined);
}

/** What a file is to be. */
export interface Encoding {
  readonly format: FileFormat;
  /** 1 to 100; of no matter to what loses nothing. */
  readonly quality: number;
  readonly chroma: Chroma;
  readonly notes: FileNotes;
  /** What goes underneath where a format keeps no transparency, `#rrggbb`. */
  readonly ground: string;
}

async function rawFile(canvas: OffscreenCanvas, { format, quality, chroma, ground }: Encoding): Promise<Uint8Array> {
  if (format === 'webp') {
    const blob = await canvas.convertToBlob({ type: pictureFormats.webp.mime, quality: quality / 100 });
    // A browser that cannot write a type gives a PNG without a word.
    if (blob.type !== pictureFormats.webp.mime) throw new Error('This browser cannot write WebP. Choose JPEG or PNG.');
    return new Uint8Array(await blob.arrayBuffer());
  }
  if (format === 'png') {
    const pixels = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    await codecs.png!();
    return optimise_raw(pixels.data, pixels.width, pixels.height, 1, false, false);
  }
  if (format === 'avif') {
    const { data, width, height } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    const encoder = await avif();
    const options = { ...avifDefaults, quality, speed: AVIF_SPEED, subsample: chroma === '420' ? 1 : 3 };
    const file = encoder.encode(new Uint8Array(data.buffer), width, height, options);
    if (!file) throw new Error('This graphic could not be made an AVIF. Choose JPEG, PNG or WebP.');
    return Uint8Array.from(file);
  }
  // JPEG keeps no transparency: the page's own ground goes underneath.
  const flat = new OffscreenCanvas(canvas.width, canvas.height);
  const context = flat.getContext('2d')!;
  context.fillStyle = ground;
  context.fillRect(0, 0, flat.width, flat.height);
  context.drawImage(canvas, 0, 0);
  const pixels = context.getImageData(0, 0, flat.width, flat.height);
  await codecs.jpeg!();
  const chroma_subsample = chroma === '420' ? 2 : 1;
  return new Uint8Array(await encodeJpeg(pixels, { quality, auto_subsample: false, chroma_subsample }));
}

/**
 * A finished file: encoded, stripped of foreign metadata, sRGB stated, read back; and how it differs from the canvas,
 * where that is asked for.
 */
export async function encode(
  canvas: OffscreenCanvas,
  choices: Encoding,
  compare: boolean,
): Promise<{ blob: Blob; difference: FileDifference | null }> {
  let raw: Uint8Array;
  try {
    raw = await rawFile(canvas, choices);
  } catch (error) {
    if (error instanceof TypeError)
      throw new Error(
        'The part of Bright Slot that makes this format could not be fetched. Check that Bright Slot is running, then try again.',
      );
    throw error;
  }
  const blob = new Blob([withNotes(raw, choices.format, choices.notes)], {
    type: pictureFormats[choices.format].mime,
  });
  const bitmap = await readBack(blob, canvas, choices.format);
  try {
    return { blob, difference: compare ? differenceFrom(canvas, choices.ground, bitmap) : null };
  } finally {
    bitmap.close();
  }
}

/**
 * Opens a file that was made and holds it against what it was made from: its size, and for PNG, which loses nothing,
 * every pixel. An encoder that cut or spoilt a picture without a word is found here, not on the page.
 */
async function readBack(file: Blob, canvas: OffscreenCanvas, format: FileFormat): Promise<ImageBitmap> {
  const spoilt = () =>
    new Error(
      `The ${pictureFormats[format].name} that was made is not the graphic: it was read back and does not match. Choose another format, or a lower density for the slot in Slots.`,
    );
  const bitmap = await createImageBitmap(file, { colorSpaceConversion: 'none' }).catch(() => null);
  if (!bitmap) throw spoilt();
  if (!isRead(bitmap, canvas, format)) {
    bitmap.close();
    throw spoilt();
  }
  return bitmap;
}

function isRead(bitmap: ImageBitmap, canvas: OffscreenCanvas, format: FileFormat): boolean {
  if (bitmap.width !== canvas.width || bitmap.height !== canvas.height) return false;
  if (pictureFormats[format].written !== 'lossless') return true;
  const read = new OffscreenCanvas(canvas.width, STRIP).getContext('2d', { willReadFrequently: true })!;
  const own = canvas.getContext('2d')!;
  for (let y = 0; y < canvas.height; y += STRIP) {
    const rows = Math.min(STRIP, canvas.height - y);
    read.clearRect(0, 0, canvas.width, STRIP);
    read.drawImage(bitmap, 0, -y);
    const [made, wanted] = [read, own].map(
      (c, i) => new Uint32Array(c.getImageData(0, i === 0 ? 0 : y, canvas.width, rows).data.buffer),
    );
    if (made!.some((pixel, i) => pixel !== wanted![i])) return false;
  }
  return true;
}

/** Rows read back at once. */
const STRIP = 256;
