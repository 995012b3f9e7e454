// AssemblyScript, compiled to WebAssembly with SIMD by tools/build.mjs; the same sums as the plain kernel in
// core/src/pixels/rows.ts, four numbers at a time. Addresses are bytes. Reduced rows are px of four 32-bit floats: red,
// green, blue in linear light times alpha, and alpha. Loops are written out over several px, since nothing unrolls them.
//
// Weights of a px stand `stride` apart, a multiple of eight, and are nought past its count: taps are taken eight (opaque)
// or four (with alpha) at a time, and what `line` holds past the end of a row has to be a number.

/** The linear light of a colour (0, 8 or 16 bits up in a px), from a table of floats. */
function light(table: usize, px: u32, bits: u32): f32 {
  return load<f32>(table + ((<usize>((px >> bits) & 0xff)) << 2));
}

/** Makes one opaque px linear, each colour in a plane of its own. */
function spread(source: usize, table: usize, red: usize, green: usize, blue: usize): void {
  const px = load<u32>(source);
  store<f32>(red, light(table, px, 0));
  store<f32>(green, light(table, px, 8));
  store<f32>(blue, light(table, px, 16));
}

/**
 * Makes one source row of opaque px linear and reduces its width. `first` and `count` say which source px each output px
 * takes; `plane` is how far apart the colours stand in `line`.
 */
export function acrossOpaque(
  source: usize,
  length: i32,
  table: usize,
  line: usize,
  plane: usize,
  row: usize,
  outWidth: i32,
  first: usize,
  count: usize,
  weights: usize,
  stride: i32,
): void {
  const greens = line + plane;
  const blues = greens + plane;
  const end = (<usize>length) << 2;
  let at: usize = 0;
  for (; at + 12 < end; at += 16) {
    spread(source + at, table, line + at, greens + at, blues + at);
    spread(source + at + 4, table, line + at + 4, greens + at + 4, blues + at + 4);
    spread(source + at + 8, table, line + at + 8, greens + at + 8, blues + at + 8);
    spread(source + at + 12, table, line + at + 12, greens + at + 12, blues + at + 12);
  }
  for (; at < end; at += 4) spread(source + at, table, line + at, greens + at, blues + at);

  // Four of these make the alpha of an opaque px.
  const quarter = f32x4.splat(0.25);
  for (let o = 0; o < outWidth; o++) {
    const from = (<usize>load<i32>(first + ((<usize>o) << 2))) << 2;
    let weight = weights + ((<usize>(o * stride)) << 2);
    const last = weight + ((<usize>load<i32>(count + ((<usize>o) << 2))) << 2);
    let red = line + from;
    let green = greens + from;
    let blue = blues + from;
    let r = f32x4.splat(0);
    let g = f32x4.splat(0);
    let b = f32x4.splat(0);
    for (; weight < last; weight += 32) {
      const w = v128.load(weight);
      const v = v128.load(weight, 16);
      r = f32x4.add(r, f32x4.add(f32x4.mul(v128.load(red), w), f32x4.mul(v128.load(red, 16), v)));
      g = f32x4.add(g, f32x4.add(f32x4.mul(v128.load(green), w), f32x4.mul(v128.load(green, 16), v)));
      b = f32x4.add(b, f32x4.add(f32x4.mul(v128.load(blue), w), f32x4.mul(v128.load(blue, 16), v)));
      red += 32;
      green += 32;
      blue += 32;
    }
    const rg = f32x4.add(v128.shuffle<f32>(r, g, 0, 4, 1, 5), v128.shuffle<f32>(r, g, 2, 6, 3, 7));
    const ba = f32x4.add(v128.shuffle<f32>(b, quarter, 0, 4, 1, 5), v128.shuffle<f32>(b, quarter, 2, 6, 3, 7));
    const sum = f32x4.add(v128.shuffle<f32>(rg, ba, 0, 1, 4, 5), v128.shuffle<f32>(rg, ba, 2, 3, 6, 7));
    v128.store(row + ((<usize>o) << 4), sum);
  }
}

/** The same of px that let something through, side by side in `line`. */
export function across(
  source: usize,
  length: i32,
  table: usize,
  line: usize,
  row: usize,
  outWidth: i32,
  first: usize,
  count: usize,
  weights: usize,
  stride: i32,
): void {
  let from = source;
  let to = line;
  for (let x = 0; x < length; x++) {
    const px = load<u32>(from);
    const a = <f32>(px >> 24) / 255;
    store<f32>(to, light(table, px, 0) * a, 0);
    store<f32>(to, light(table, px, 8) * a, 4);
    store<f32>(to, light(table, px, 16) * a, 8);
    store<f32>(to, a, 12);
    from += 4;
    to += 16;
  }
  for (let o = 0; o < outWidth; o++) {
    let pixel = line + ((<usize>load<i32>(first + ((<usize>o) << 2))) << 4);
    let weight = weights + ((<usize>(o * stride)) << 2);
    const last = weight + ((<usize>load<i32>(count + ((<usize>o) << 2))) << 2);
    let even = f32x4.splat(0);
    let odd = f32x4.splat(0);
    for (; weight < last; weight += 16) {
      even = f32x4.add(even, f32x4.mul(v128.load(pixel), v128.load32_splat(weight)));
      odd = f32x4.add(odd, f32x4.mul(v128.load(pixel, 16), v128.load32_splat(weight, 4)));
      even = f32x4.add(even, f32x4.mul(v128.load(pixel, 32), v128.load32_splat(weight, 8)));
      odd = f32x4.add(odd, f32x4.mul(v128.load(pixel, 48), v128.load32_splat(weight, 12)));
      pixel += 64;
    }
    v128.store(row + ((<usize>o) << 4), f32x4.add(even, odd));
  }
}

/** Mixes rows into `line`, four px at a time: rows and line have room for a multiple of four. */
function mix(rows: usize, weights: usize, count: i32, outWidth: i32, line: usize): void {
  const end = (<usize>outWidth) << 4;
  const last = rows + ((<usize>count) << 2);
  for (let x: usize = 0; x < end; x += 64) {
    let a = f32x4.splat(0);
    let b = f32x4.splat(0);
    let c = f32x4.splat(0);
    let d = f32x4.splat(0);
    let weight = weights;
    for (let at = rows; at < last; at += 4) {
      const row = <usize>load<u32>(at) + x;
      const w = v128.load32_splat(weight);
      a = f32x4.add(a, f32x4.mul(v128.load(row), w));
      b = f32x4.add(b, f32x4.mul(v128.load(row, 16), w));
      c = f32x4.add(c, f32x4.mul(v128.load(row, 32), w));
      d = f32x4.add(d, f32x4.mul(v128.load(row, 48), w));
      weight += 4;
    }
    v128.store(line + x, a);
    v128.store(line + x, b, 16);
    v128.store(line + x, c, 32);
    v128.store(line + x, d, 48);
  }
}

/** Reduces rows to one row of bytes: encoded sRGB, straight alpha, alpha times the coverage of the edges. */
export function down(
  rows: usize,
  weights: usize,
  count: i32,
  outWidth: i32,
  line: usize,
  edges: usize,
  edge: f32,
  encoded: usize,
  out: usize,
): void {
  mix(rows, weights, count, outWidth, line);
  for (let x = 0; x < outWidth; x++) {
    const share = load<f32>(edges + ((<usize>x) << 2)) * edge;
    const at = out + ((<usize>x) << 2);
    const sum = v128.load(line + ((<usize>x) << 4));
    const alpha = f32x4.extract_lane(sum, 3);
    if (share <= 0 || alpha <= 0) {
      store<u32>(at, 0);
      continue;
    }
    // The table is on a square-root scale of 4096 steps; see byteOf in core/src/colour/srgb.ts.
    let straight = f32x4.div(sum, f32x4.splat(alpha));
    straight = f32x4.max(f32x4.splat(0), f32x4.min(f32x4.splat(1), straight));
    const steps = i32x4.trunc_sat_f32x4_s(
      f32x4.add(f32x4.mul(f32x4.sqrt(straight), f32x4.splat(4096)), f32x4.splat(0.5)),
    );
    store<u8>(at, load<u8>(encoded + <usize>i32x4.extract_lane(steps, 0)), 0);
    store<u8>(at, load<u8>(encoded + <usize>i32x4.extract_lane(steps, 1)), 1);
    store<u8>(at, load<u8>(encoded + <usize>i32x4.extract_lane(steps, 2)), 2);
    store<u8>(at, <u8>(Mathf.min(1, alpha) * share * 255 + 0.5), 3);
  }
}
