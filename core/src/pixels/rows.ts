import { byteOf, byteOfRoot, linearOf } from '../colour/srgb';

/** Which source pixels each output pixel of an axis takes, and how much of each. */
export interface Taps {
  /** First source index for each output. */
  readonly first: Int32Array;
  readonly count: Int32Array;
  /** Weights, `stride` apart; each row sums to 1. */
  readonly weights: Float32Array;
  readonly stride: number;
}

export interface RowJob {
  /** Source px a row. */
  readonly length: number;
  readonly outWidth: number;
  readonly opaque: boolean;
  readonly across: Taps;
  /** How much of each output column lies within what shows, 0…1. */
  readonly edges: Float32Array;
  /** Rows of reduced width that have to be at hand at once. */
  readonly slots: number;
}

/**
 * The two passes of a reduction, a row at a time. Between them rows stand in linear light on
 * premultiplied alpha, in as many slots as one output row needs.
 */
export interface RowKernel {
  /** Reduces the width of a source row (straight-alpha encoded RGBA bytes from `at`) into a slot. */
  across(source: Uint8ClampedArray, at: number, slot: number): void;
  /** Mixes slots into a row of straight-alpha encoded RGBA bytes at `at`; `edge` is the row's own coverage. */
  down(slots: Int32Array, weights: Float32Array, edge: number, out: Uint8ClampedArray, at: number): void;
}

export type MakeRowKernel = (job: RowJob) => RowKernel;

/** The passes in plain TypeScript: the reference, and what is used until the compiled ones are there. */
export const plainRows: MakeRowKernel = ({ length, outWidth, opaque, across, edges, slots }) => {
  const channels = opaque ? 3 : 4;
  const rows = Array.from({ length: slots }, () => new Float32Array(outWidth * channels));
  const line = new Float32Array(length * channels);
  const sum = new Float32Array(outWidth * channels);
  return {
    across(source, at, slot) {
      for (let x = 0, l = 0, i = at; x < length; x++, i += 4) {
        const a = opaque ? 1 : source[i + 3]! / 255;
        line[l++] = linearOf[source[i]!]! * a;
        line[l++] = linearOf[source[i + 1]!]! * a;
        line[l++] = linearOf[source[i + 2]!]! * a;
        if (!opaque) line[l++] = a;
      }
      const row = rows[slot]!;
      for (let o = 0, to = 0; o < outWidth; o++) {
        const n = across.count[o]!;
        const w0 = o * across.stride;
        let p = across.first[o]! * channels;
        let c0 = 0;
        let c1 = 0;
        let c2 = 0;
        let c3 = 0;
        for (let k = 0; k < n; k++, p += channels) {
          const w = across.weights[w0 + k]!;
          c0 += w * line[p]!;
          c1 += w * line[p + 1]!;
          c2 += w * line[p + 2]!;
          if (channels === 4) c3 += w * line[p + 3]!;
        }
        row[to++] = c0;
        row[to++] = c1;
        row[to++] = c2;
        if (channels === 4) row[to++] = c3;
      }
    },
    down(from, weights, edge, out, at) {
      sum.fill(0);
      from.forEach((slot, k) => {
        const w = weights[k]!;
        const row = rows[slot]!;
        for (let i = 0; i < sum.length; i++) sum[i]! += w * row[i]!;
      });
      for (let x = 0, i = 0; x < outWidth; x++, at += 4, i += channels) {
        const share = edges[x]! * edge;
        const alpha = opaque ? 1 : sum[i + 3]!;
        if (share <= 0 || alpha <= 0) continue;
        out[at] = byteOf(sum[i]! / alpha);
        out[at + 1] = byteOf(sum[i + 1]! / alpha);
        out[at + 2] = byteOf(sum[i + 2]! / alpha);
        out[at + 3] = Math.round(Math.min(1, alpha) * share * 255);
      }
    },
  };
};

/** What core/kernel/reduce.ts gives when it is compiled; addresses are bytes in its memory. */
export interface CompiledRows {
  readonly memory: { readonly buffer: ArrayBuffer; grow(pages: number): number };
  acrossOpaque(
    source: number,
    length: number,
    table: number,
    line: number,
    plane: number,
    row: number,
    outWidth: number,
    first: number,
    count: number,
    weights: number,
    stride: number,
  ): void;
  across(
    source: number,
    length: number,
    table: number,
    line: number,
    row: number,
    outWidth: number,
    first: number,
    count: number,
    weights: number,
    stride: number,
  ): void;
  down(
    rows: number,
    weights: number,
    count: number,
    outWidth: number,
    line: number,
    edges: number,
    edge: number,
    encoded: number,
    out: number,
  ): void;
}

const PAGE = 65_536;
/** Taps that the compiled kernel takes at a time, at most. */
const TAPS = 8;

const upTo = (n: number, step: number) => Math.ceil(n / step) * step;

/** The passes by the compiled kernel. One job at a time: each lays out the kernel's memory anew. */
export function compiledRows(exports: CompiledRows): MakeRowKernel {
  return ({ length, outWidth, opaque, across, edges, slots }) => {
    // The first page is the kernel's own.
    let next = PAGE;
    const room = (bytes: number) => {
      const at = next;
      next += upTo(bytes, 16);
      return at;
    };
    const source = room(length * 4);
    const table = room(256 * 4);
    const encoded = room(byteOfRoot.length);
    const plane = upTo((length + TAPS) * 4, 16);
    const lineBytes = opaque ? plane * 3 : (length + TAPS) * 16;
    const line = room(lineBytes);
    const rowBytes = upTo(outWidth, 4) * 16;
    const rows = Array.from({ length: slots }, () => room(rowBytes));
    const mixed = room(rowBytes);
    const first = room(outWidth * 4);
    const count = room(outWidth * 4);
    const stride = upTo(across.stride, TAPS);
    const weights = room(outWidth * stride * 4);
    const columns = room(outWidth * 4);
    const pointers = room(slots * 4);
    const rowWeights = room(slots * 4);
    const result = room(outWidth * 4);
    const missing = next - exports.memory.buffer.byteLength;
    if (missing > 0) exports.memory.grow(Math.ceil(missing / PAGE));
    const { buffer } = exports.memory;
    const bytes = new Uint8Array(buffer);
    bytes.set(byteOfRoot, encoded);
    // What lies past the end of a row is taken times nought, which only a number survives.
    bytes.fill(0, line, line + lineBytes);
    new Float32Array(buffer, table, 256).set(linearOf);
    new Int32Array(buffer, first, outWidth).set(across.first);
    new Int32Array(buffer, count, outWidth).set(across.count);
    const taps = new Float32Array(buffer, weights, outWidth * stride).fill(0);
    for (let o = 0; o < outWidth; o++) {
      const at = o * across.stride;
      taps.set(across.weights.subarray(at, at + across.count[o]!), o * stride);
    }
    new Float32Array(buffer, columns, outWidth).set(edges);
    const addresses = new Uint32Array(buffer, pointers, slots);
    const shares = new Float32Array(buffer, rowWeights, slots);
    return {
      across(from, at, slot) {
        bytes.set(from.subarray(at, at + length * 4), source);
        const row = rows[slot]!;
        if (opaque)
          exports.acrossOpaque(source, length, table, line, plane, row, outWidth, first, count, weights, stride);
        else exports.across(source, length, table, line, row, outWidth, first, count, weights, stride);
      },
      down(from, w, edge, out, at) {
        from.forEach((slot, k) => (addresses[k] = rows[slot]!));
        shares.set(w.subarray(0, from.length));
        exports.down(pointers, rowWeights, from.length, outWidth, mixed, columns, edge, encoded, result);
        out.set(bytes.subarray(result, result + outWidth * 4), at);
      },
    };
  };
}
