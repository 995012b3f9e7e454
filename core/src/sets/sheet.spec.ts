import fc from 'fast-check';
import Papa from 'papaparse';
import { readCsv, readHtmlSheet, readPasted, sheetRows, sheetText, type Cells } from './sheet';

const cells = (found: ReturnType<typeof readCsv>): Cells => {
  if (!found.ok) throw new Error(found.problem.message);
  return found.value;
};

// RFC 4180, “Common Format and MIME Type for CSV Files”, section 2: its own examples, by the number of their rule.
describe('CSV by RFC 4180, section 2', () => {
  it.each([
    [
      '1: a line each, ended by CRLF',
      'aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n',
      [
        ['aaa', 'bbb', 'ccc'],
        ['zzz', 'yyy', 'xxx'],
      ],
    ],
    [
      '2: the last line without an end',
      'aaa,bbb,ccc\r\nzzz,yyy,xxx',
      [
        ['aaa', 'bbb', 'ccc'],
        ['zzz', 'yyy', 'xxx'],
      ],
    ],
    [
      '5: in quotes or not',
      '"aaa","bbb","ccc"\r\nzzz,yyy,xxx',
      [
        ['aaa', 'bbb', 'ccc'],
        ['zzz', 'yyy', 'xxx'],
      ],
    ],
    [
      '6: a comma and a line break in quotes',
      '"aaa","b\r\nb, b","ccc"\r\nzzz,yyy,xxx',
      [
        ['aaa', 'b b, b', 'ccc'],
        ['zzz', 'yyy', 'xxx'],
      ],
    ],
    ['7: a quote by two', '"aaa","b""bb","ccc"', [['aaa', 'b"bb', 'ccc']]],
  ])('%s', (_, text, rows) => expect(cells(readCsv(text))).toEqual(rows));

  it('has what spreadsheets write beside it: semicolons, tabs, a byte order mark, empty lines', () => {
    expect(cells(readCsv('\ufeffBowls;bowl.jpg\n\n;\nJugs;jug.jpg'))).toEqual([
      ['Bowls', 'bowl.jpg'],
      ['Jugs', 'jug.jpg'],
    ]);
    expect(cells(readCsv('Bowls\tbowl.jpg\nJugs\tjug.jpg'))).toHaveLength(2);
  });

  it('reads back whatever is written by the rules, however odd its letters', () => {
    const word = fc
      .string({ minLength: 1, maxLength: 20, unit: 'grapheme' })
      .map((s) => s.toWellFormed().replace(/\s+/g, ' ').trim());
    const row = fc.tuple(word, word, word).filter((r) => r.every(Boolean) && !r.join('').includes('\ufeff'));
    fc.assert(
      fc.property(fc.array(row, { minLength: 2, maxLength: 12 }), (rows) => {
        expect(cells(readCsv(Papa.unparse(rows, { quotes: true })))).toEqual(rows);
      }),
      { numRuns: 200 },
    );
  });

  it('is nothing where nothing is in it, and too large is told', () => {
    expect(readCsv('\n , \n').ok).toBe(false);
    expect(readCsv('a,'.repeat(3_000_000))).toMatchObject({ ok: false, problem: { code: 'sheet' } });
  });
});

describe('the bytes of a sheet', () => {
  const text = 'Töpfe, “Gießer”';
  it('are UTF-8, UTF-16 by their mark, or as older spreadsheets write them', () => {
    expect(sheetText(new TextEncoder().encode(text))).toBe(text);
    const wide = new Uint8Array([
      0xff,
      0xfe,
      ...[...text].flatMap((c) => [c.charCodeAt(0) & 255, c.charCodeAt(0) >> 8]),
    ]);
    expect(sheetText(wide)).toBe(text);
    // WHATWG Encoding Standard, “index-windows-1252”; Node 20 has 0x80 to 0x9f of it wrong, Chromium has them right.
    expect(sheetText(new Uint8Array([0x54, 0xf6, 0x70, 0x66, 0x65]))).toBe('Töpfe');
  });
});

describe('what was copied', () => {
  // As a spreadsheet puts it on the clipboard; its shape from memory.
  const html = `<html xmlns:o="urn:schemas"><head><style>td{mso-style:x}</style></head><body><!--StartFragment-->
    <table border=0><colgroup><col width=64></colgroup>
    <tr height=20><td class=xl65>Name</td><td>Picture</td></tr>
    <tr><td style='height:15pt'>Teapots &amp;<br> lids</td><td>kiln.jpg</td></tr>
    <tr><td colspan=2>Seconds</td></tr><tr><td></td><td>&nbsp;</td></tr></table><!--EndFragment--></body></html>`;

  it('is read from a table of HTML: entities, breaks, cells over two columns, rows of nothing', () => {
    expect(cells(readHtmlSheet(html))).toEqual([
      ['Name', 'Picture'],
      ['Teapots & lids', 'kiln.jpg'],
      ['Seconds', ''],
    ]);
    expect(readHtmlSheet('<p>Bowls</p>').ok).toBe(false);
  });

  it('runs nothing of it', () => {
    const evil =
      '<table><tr><td><img src=x onerror="globalThis.struck=1">Bowls<script>globalThis.struck=1</script></td></tr></table>';
    cells(readHtmlSheet(evil));
    expect((globalThis as { struck?: number }).struck).toBeUndefined();
  });

  it('is apart by tabs as text; a list of words is one column, whatever commas are in it', () => {
    expect(cells(readPasted('Bowls\tbowl.jpg\r\n"Jugs\nand more"\tjug.jpg\r\n'))).toEqual([
      ['Bowls', 'bowl.jpg'],
      ['Jugs and more', 'jug.jpg'],
    ]);
    expect(cells(readPasted('Cups, saucers\nBowls'))).toEqual([['Cups, saucers'], ['Bowls']]);
  });
});

describe('rows of tiles', () => {
  it('by headings, in whatever order they stand', () => {
    const { rows } = sheetRows([
      ['Photo file', 'Title', 'Price'],
      ['a.jpg', 'Bowls', 'from 18'],
    ]);
    expect(rows).toEqual([{ word: 'Bowls', line: 'from 18', photo: 'a.jpg' }]);
  });

  it('without headings by what is in them; a word that is called so is a word', () => {
    expect(
      sheetRows([
        ['Bowls', 'b.JPG'],
        ['Jugs', 'j.webp'],
        ['Plates', ''],
      ]).rows,
    ).toEqual([
      { word: 'Bowls', line: '', photo: 'b.JPG' },
      { word: 'Jugs', line: '', photo: 'j.webp' },
      { word: 'Plates', line: '', photo: '' },
    ]);
    expect(sheetRows([['Title'], ['Bowls']]).rows.map((r) => r.word)).toEqual(['Title', 'Bowls']);
  });

  it('5 000 rows: as many as a set holds, and how many were left out', () => {
    const many = Array.from({ length: 5000 }, (_, i) => `Tile ${i},photo-${i}.jpg`).join('\n');
    const { rows, told } = sheetRows(cells(readCsv(many)));
    expect(rows).toHaveLength(500);
    expect(rows[499]).toEqual({ word: 'Tile 499', line: '', photo: 'photo-499.jpg' });
    expect(told).toEqual(['The sheet has 5,000 rows; a set holds 500, so the last 4,500 were left out.']);
  });

  it('too many words for a tile are cut, and told', () => {
    const { rows, told } = sheetRows([['x'.repeat(300)], ['Bowls']]);
    expect(rows[0]!.word).toHaveLength(120);
    expect(told).toEqual(['1 row had more words than a tile holds; what came after was left out.']);
  });
});
