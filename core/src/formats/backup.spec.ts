import { strToU8, zipSync, type Zippable } from 'fflate';
import { commit, historyFrom, startHistory } from '../graphic/history';
import { blank, words, withLayers } from '../testing/samples';
import { createUnpacker, isPlainEntry, type ArchiveLimits } from './archive';
import { CONTENTS, asNewGraphic, assetEntry, graphicEntry, readBackup, type Backup } from './backup';

const limits: ArchiveLimits = { files: 50, each: 2 ** 20, all: 3 * 2 ** 20 };

function unpack(bytes: Uint8Array, own = limits, piece = 1000) {
  const unpacker = createUnpacker(own);
  for (let i = 0; i < bytes.length || i === 0; i += piece) {
    const taken = unpacker.push(bytes.subarray(i, i + piece), i + piece >= bytes.length);
    if (!taken.ok) return taken;
  }
  return unpacker.finish();
}
const codeOf = (r: ReturnType<typeof unpack> | ReturnType<typeof readBackup>) => (r.ok ? 'ok' : r.problem.code);

describe('unpacking', () => {
  it('gives back what was packed, in whatever pieces it comes', () => {
    const zip = zipSync({ 'a/b.json': strToU8('{"x":1}'), 'assets/1': [strToU8('raw'), { level: 0 }] });
    for (const piece of [7, 64, 100_000]) {
      const files = unpack(zip, limits, piece);
      expect(files.ok && [...files.value].map(([n, b]) => [n, new TextDecoder().decode(b)])).toEqual([
        ['a/b.json', '{"x":1}'],
        ['assets/1', 'raw'],
      ]);
    }
  });
  it.each(['../outside.json', '/etc/passwd', 'a/../../b', 'C:\\x', 'a\\..\\b', 'ok/./x'])(
    'refuses a name that climbs: %s',
    (name) => {
      expect(isPlainEntry(name)).toBe(false);
      expect(codeOf(unpack(zipSync({ [name]: strToU8('x') })))).toBe('climbs');
    },
  );
  it('stops a file that swells, and many that swell together, soon after they begin', () => {
    const bomb = zipSync({ 'assets/b': new Uint8Array(40 * 2 ** 20) });
    expect(bomb.length).toBeLessThan(100_000);
    expect(codeOf(unpack(bomb))).toBe('swells');
    const many: Zippable = {};
    for (let i = 0; i < 9; i++) many[`assets/${i}`] = new Uint8Array(2 ** 19);
    expect(codeOf(unpack(zipSync(many)))).toBe('swells');
  });
  it('refuses too many files, a file that breaks off, and what is no zip', () => {
    const many: Zippable = {};
    for (let i = 0; i < 51; i++) many[`assets/${i}`] = strToU8('x');
    expect(codeOf(unpack(zipSync(many)))).toBe('too-many');
    const big = zipSync({ 'assets/a': [crypto.getRandomValues(new Uint8Array(60_000)), { level: 0 }] });
    expect(['cut-short', 'damaged']).toContain(codeOf(unpack(big.subarray(0, 30_000))));
    expect(codeOf(unpack(strToU8('Dear Wren, the kiln is cold.')))).toBe('not-a-zip');
    expect(codeOf(unpack(new Uint8Array()))).toBe('not-a-zip');
  });
});

describe('a backup', () => {
  const hash = 'a'.repeat(64);
  const start = startHistory({ ...withLayers(blank(), words('Hello')), id: 'g1' }, 's1', 1);
  const history = commit(start, { type: 'rename', to: 'Renamed', name: 'Renamed' }, 's2', 2);
  const backup: Backup = {
    format: 'bright-slot-backup',
    version: 1,
    saved: '2026-11-25T00:00:00Z',
    graphics: [{ id: 'g1', head: 's2', next: { s1: 's2' }, created: '2026-11-25T00:00:00Z', changed: 2 }],
    assets: [
      { hash, type: 'png', width: 1, height: 1, opaque: true, silhouette: null, name: 'Dot', added: 1, credit: '' },
    ],
    houseStyle: null,
    slots: [],
    fonts: [],
  };
  const files = (over: Record<string, unknown> = {}) =>
    new Map(
      Object.entries({ [CONTENTS]: backup, [graphicEntry('g1')]: Object.values(history.steps), ...over })
        .map(([n, v]) => [n, strToU8(typeof v === 'string' ? v : JSON.stringify(v))] as const)
        .concat([[assetEntry(hash), strToU8('bytes')]]),
    );

  it('is read whole', () => {
    const read = readBackup(files());
    expect(read.ok && read.value.graphics[0]!.steps).toHaveLength(2);
    expect(read.ok && read.value.assets[0]!.facts.name).toBe('Dot');
  });
  const font = { hash: 'f'.repeat(64), family: 'Own', weights: [400, 700], italic: false, licence: '', added: 1 };
  it('has the fonts that were brought, and one from before there were any has none', () => {
    const read = readBackup(files({ [CONTENTS]: { ...backup, fonts: [font] }, [`fonts/${font.hash}`]: 'bytes' }));
    expect(read.ok && read.value.fonts.map((f) => f.facts.family)).toEqual(['Own']);
    const before = readBackup(files({ [CONTENTS]: { ...backup, fonts: undefined } }));
    expect(before.ok && before.value.fonts).toEqual([]);
  });
  it.each([
    ['a font that is listed and not there', { [CONTENTS]: { ...backup, fonts: [font] } }, 'incomplete'],
    ['a list that is no JSON', { [CONTENTS]: '{' }, 'not-a-backup'],
    ['a newer one', { [CONTENTS]: { ...backup, version: 2 } }, 'newer'],
    ['a list of another shape', { [CONTENTS]: { ...backup, graphics: 7 } }, 'damaged'],
    ['a graphic that is not there', { [graphicEntry('g1')]: 'null' }, 'incomplete'],
    [
      'a graphic whose head is not among its steps',
      { [graphicEntry('g1')]: [Object.values(history.steps)[0]] },
      'damaged',
    ],
    [
      'a graphic from a newer version',
      {
        [graphicEntry('g1')]: Object.values(history.steps).map((s) => ({
          ...s,
          graphic: { ...s.graphic, version: 9 },
        })),
      },
      'newer',
    ],
    [
      'a graphic of another id',
      { [graphicEntry('g1')]: Object.values(history.steps).map((s) => ({ ...s, graphicId: 'other' })) },
      'damaged',
    ],
  ])('refuses %s', (_what, over, code) => {
    expect(codeOf(readBackup(files(over)))).toBe(code);
  });
  it('refuses a picture that is missing', () => {
    const short = files();
    short.delete(assetEntry(hash));
    expect(codeOf(readBackup(short))).toBe('incomplete');
  });
  it('comes in beside what is there: every id new, the history the same', () => {
    let n = 0;
    const read = readBackup(files());
    const fresh = asNewGraphic(
      read.ok ? read.value.graphics[0]! : null!,
      () => `n${++n}`,
      (name) => `${name}, again`,
    );
    const rebuilt = historyFrom(fresh.steps, fresh.record.head, fresh.record.next)!;
    expect(Object.keys(rebuilt.steps).sort()).toEqual(['n2', 'n3']);
    expect(rebuilt.steps[rebuilt.head]!.graphic).toMatchObject({ id: 'n1', name: 'Renamed, again' });
    expect(rebuilt.steps[rebuilt.head]!.parent).toBe('n2');
    expect(rebuilt.next).toEqual({ n2: 'n3' });
  });
});
