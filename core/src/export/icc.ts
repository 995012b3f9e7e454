/**
 * A small ICC profile that says sRGB (ICC.1:2022, sections 7 to 10): matrix and
 * parametric curve. Colorants are IEC 61966-2-1's primaries adapted to D50, as the
 * specification's own sRGB profile has them.
 */
export function srgbProfile(): Uint8Array<ArrayBuffer> {
  const s15 = (n: number) => Math.round(n * 65536);
  const ascii = (text: string) => [...text].map((c) => c.charCodeAt(0));
  const u32 = (n: number) => [(n >>> 24) & 255, (n >>> 16) & 255, (n >>> 8) & 255, n & 255];
  const xyz = (...v: number[]) => [...ascii('XYZ '), ...u32(0), ...v.flatMap((n) => u32(s15(n)))];
  const text = (t: string) => [
    ...ascii('mluc'),
    ...u32(0),
    ...u32(1),
    ...u32(12),
    ...ascii('enUS'),
    ...u32(t.length * 2),
    ...u32(28),
    ...[...t].flatMap((c) => [0, c.charCodeAt(0)]),
  ];
  const curve = [
    ...ascii('para'),
    ...u32(0),
    0,
    3,
    0,
    0,
    ...[2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045].flatMap((n) => u32(s15(n))),
  ];
  const adaptation = [
    1.04788208, 0.0229187, -0.05021667, 0.02958679, 0.99047852, -0.01707459, -0.00924683, 0.01507568, 0.75167847,
  ];
  const blocks: [string[], number[]][] = [
    [['desc'], text('sRGB')],
    [['cprt'], text('CC0')],
    [['wtpt'], xyz(0.9642, 1, 0.8249)],
    [['chad'], [...ascii('sf32'), ...u32(0), ...adaptation.flatMap((n) => u32(s15(n)))]],
    [['rXYZ'], xyz(0.43606567, 0.2224884, 0.01391602)],
    [['gXYZ'], xyz(0.38514709, 0.71687317, 0.09707642)],
    [['bXYZ'], xyz(0.14306641, 0.06060791, 0.71409607)],
    [['rTRC', 'gTRC', 'bTRC'], curve],
  ];
  const tagCount = blocks.reduce((n, [names]) => n + names.length, 0);
  let offset = 128 + 4 + tagCount * 12;
  const table: number[] = [...u32(tagCount)];
  const body: number[] = [];
  for (const [names, bytes] of blocks) {
    const padded = [...bytes, ...new Array<number>((4 - (bytes.length % 4)) % 4).fill(0)];
    for (const name of names) table.push(...ascii(name), ...u32(offset), ...u32(bytes.length));
    body.push(...padded);
    offset += padded.length;
  }
  const header = [
    ...u32(offset),
    ...u32(0),
    ...u32(0x04400000),
    ...ascii('mntr'),
    ...ascii('RGB '),
    ...ascii('XYZ '),
    ...[2026, 1, 1, 0, 0, 0].flatMap((n) => [n >> 8, n & 255]),
    ...ascii('acsp'),
    ...new Array<number>(28).fill(0),
    ...[0.9642, 1, 0.8249].flatMap((n) => u32(s15(n))),
    ...new Array<number>(48).fill(0),
  ];
  return Uint8Array.from([...header, ...table, ...body]);
}
