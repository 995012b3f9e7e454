import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { defaultOptions } from '@jsquash/avif/meta.js';
import type { Pixels } from '../pixels/reduce';

interface AvifEncoder {
  encode(data: Uint8Array, width: number, height: number, options: object): Uint8Array;
}

/** The app's own AVIF encoder at the app's own speed, outside a browser; 4:4:4. */
export async function encodedAvif({ width, height, data }: Pixels, quality: number): Promise<Uint8Array> {
  const { default: encoder } = (await import('@jsquash/avif/codec/enc/avif_enc.js')) as { default: unknown };
  const { initEmscriptenModule } = (await import('@jsquash/avif/utils.js')) as unknown as {
    initEmscriptenModule: (encoder: unknown, module: WebAssembly.Module) => Promise<AvifEncoder>;
  };
  const wasm = readFileSync(createRequire(import.meta.url).resolve('@jsquash/avif/codec/enc/avif_enc.wasm'));
  const made = await initEmscriptenModule(encoder, await WebAssembly.compile(wasm));
  const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  return Uint8Array.from(made.encode(bytes, width, height, { ...defaultOptions, quality, speed: 8, subsample: 3 }));
}
