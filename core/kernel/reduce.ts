// AssemblyScript, compiled to WebAssembly with SIMD by tools/build.mjs; the same sums as the plain kernel in
// core/src/pixels/rows.ts, four channels at a time. Addresses are bytes; pixels between the passes are four
// 32-bit floats: red, green, blue in linear light times alpha, and alpha.

/** Makes one source row linear and reduces its width. `first` and `count` say which source px each output px takes. */
export function across(
  source: usize,
  length: i32,
  opaque: bool,
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
    const r = load<f32>(table + ((<usize>load<u8>(from)) << 2));
    const g = load<f32>(table + ((<usize>load<u8>(from, 1)) << 2));
    const b = load<f32>(table + ((<usize>load<u8>(from, 2)) << 2));
    const a: f32 = opaque ? 1 : <f32>load<u8>(from, 3) / 255;
    store<f32>(to, r * a, 0);
    store<f32>(to, g * a, 4);
    store<f32>(to, b * a, 8);
    store<f32>(to, a, 12);
    from += 4;
    to += 16;
  }
  for (let o = 0; o < outWidth; o++) {
    let pixel = line + ((<usize>load<i32>(first + ((<usize>o) << 2))) << 4);
    let weight = weights + ((<usize>(o * stride)) << 2);
    const taps = load<i32>(count + ((<usize>o) << 2));
    let sum = f32x4.splat(0);
    for (let k = 0; k < taps; k++) {
      sum = f32x4.add(sum, f32x4.mul(v128.load(pixel), v128.load32_splat(weight)));
      pixel += 16;
      weight += 4;
    }
    v128.store(row + ((<usize>o) << 4), sum);
  }
}

/** Reduces rows to one row of bytes: encoded sRGB, straight alpha, alpha times the coverage of the edges. */
export function down(
  rows: usize,
  weights: usize,
  count: i32,
  outWidth: i32,
  edges: usize,
  edge: f32,
  encoded: usize,
  out: usize,
): void {
  for (let x = 0; x < outWidth; x++) {
    const share = load<f32>(edges + ((<usize>x) << 2)) * edge;
    const at = out + ((<usize>x) << 2);
    let sum = f32x4.splat(0);
    for (let k = 0; k < count; k++) {
      const row = <usize>load<u32>(rows + ((<usize>k) << 2));
      sum = f32x4.add(
        sum,
        f32x4.mul(v128.load(row + ((<usize>x) << 4)), v128.load32_splat(weights + ((<usize>k) << 2))),
      );
    }
    const alpha = f32x4.extract_lane(sum, 3);
    if (share <= 0 || alpha <= 0) {
      store<u32>(at, 0);
      continue;
    }
    // The table is on a square-root scale of 4096 steps; see byteOf in core/src/pixels/srgb.ts.
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
