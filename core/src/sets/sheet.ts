import { isTag, type Element } from 'domhandler';
import { getElementsByTagName, textContent } from 'domutils';
import { parseDocument } from 'htmlparser2';
import Papa from 'papaparse';
import { contentLetters } from '../graphic/contents';
import { limits } from '../limits';
import { bad, good, type Result } from '../problem';
import { cutText } from '../text';

/** Largest sheet that is read, in letters. */
const MOST_LETTERS = 4_000_000;
/** Columns of a sheet that are looked at. */
const MOST_COLUMNS = 50;

/** Cells of a sheet, row by row; rows may be of different lengths, and none is empty. */
export type Cells = readonly (readonly string[])[];

/** What one row of a sheet asks for; `photo` as it is written there, empty where nothing is. */
export interface SheetRow {
  readonly word: string;
  readonly line: string;
  readonly photo: string;
}

/** Rows as they were read, and in words what had to be left out. */
export interface Sheet {
  readonly rows: readonly SheetRow[];
  readonly told: readonly string[];
}

const tooLarge = () => bad('sheet', 'That sheet is too large to be read here. Take only the rows of this set.');
const nothing = () => bad('sheet', 'There are no rows in that. A row is a word, and beside it the name of its photo.');

/** A text file as text: by its byte order mark, else UTF-8, else as older spreadsheets write it (Windows-1252). */
export function sheetText(bytes: Uint8Array): string {
  const [a, b] = bytes;
  if (a === 0xff && b === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (a === 0xfe && b === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** Cells without what is around their words; rows and columns of nothing left out. */
function tidied(rows: readonly (readonly string[])[]): Cells {
  return rows
    .map((row) => row.slice(0, MOST_COLUMNS).map((c) => c.toWellFormed().replace(/\s+/g, ' ').trim()))
    .filter((row) => row.some(Boolean));
}

/**
 * The cells of a CSV file: RFC 4180, and what spreadsheets write beside it (semicolons or tabs, a byte order mark).
 * Fails with `sheet`.
 */
export function readCsv(text: string): Result<Cells> {
  if (text.length > MOST_LETTERS) return tooLarge();
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), {
    delimitersToGuess: [',', ';', '\t', '|'],
    skipEmptyLines: 'greedy',
  });
  const cells = tidied(data);
  return cells.length ? good(cells) : nothing();
}

/**
 * The cells of what was copied as plain text: columns apart by tabs, as spreadsheets copy them; a list of words a line
 * each, whatever commas are in it, is one column. Fails with `sheet`.
 */
export function readPasted(text: string): Result<Cells> {
  if (text.length > MOST_LETTERS) return tooLarge();
  const { data } = Papa.parse<string[]>(text, { delimiter: '\t', skipEmptyLines: 'greedy' });
  const cells = tidied(data);
  return cells.length ? good(cells) : nothing();
}

/**
 * The cells of the first table in HTML that was copied from a spreadsheet or a page. Cells that stand over several
 * columns leave the rest of them empty. Fails with `sheet`, also where there is no table.
 */
export function readHtmlSheet(html: string): Result<Cells> {
  if (html.length > MOST_LETTERS) return tooLarge();
  // A line break is a space between words.
  const read = parseDocument(html.replace(/<br\s*\/?>/gi, ' '));
  const [table] = getElementsByTagName('table', read, true, 1);
  if (!table) return nothing();
  const rows = getElementsByTagName('tr', table).map((tr) =>
    tr.children.flatMap((c) => (isTag(c) && /^t[dh]$/.test(c.name) ? cellsOf(c) : [])),
  );
  const cells = tidied(rows);
  return cells.length ? good(cells) : nothing();
}

function cellsOf(cell: Element): string[] {
  const over = Math.min(MOST_COLUMNS, Math.max(1, Math.trunc(Number(cell.attribs['colspan'] ?? 1)) || 1));
  const said = textContent(cell.children);
  return [said, ...Array.from({ length: over - 1 }, () => '')];
}

/** What columns are called, in lower case. Common practice, no source. */
const headings = {
  word: ['word', 'words', 'title', 'name', 'tile', 'label', 'text', 'caption', 'category', 'heading'],
  line: ['line', 'second line', 'subtitle', 'tagline', 'description', 'price'],
  photo: ['photo', 'photos', 'picture', 'image', 'file', 'file name', 'filename', 'photo file', 'image file'],
} as const;
const PICTURE_FILE = /\.(jpe?g|png|webp|avif|gif|svg|heic|tiff?|bmp)$/i;

/**
 * Cells as rows of tiles: by their headings where the first row has such, else photos are in the column that names
 * picture files, words in the first of the others, lines in the next. No more than `most` rows are taken.
 */
export function sheetRows(cells: Cells, most: number = limits.tiles): Sheet {
  const [head] = cells;
  const named = head ? columnsNamed(head) : null;
  const body = named ? cells.slice(1) : cells;
  const columns = named ?? columnsFound(body);
  const at = (row: readonly string[], column: number | null) => (column === null ? '' : (row[column] ?? ''));
  let cut = 0;
  const rows = body.slice(0, most).map((row): SheetRow => {
    const word = cutText(at(row, columns.word), contentLetters.title);
    const line = cutText(at(row, columns.line), contentLetters.line);
    if (word !== at(row, columns.word) || line !== at(row, columns.line)) cut++;
    return { word, line, photo: cutText(at(row, columns.photo), 300) };
  });
  const told: string[] = [];
  const left = body.length - rows.length;
  if (left > 0)
    told.push(
      `The sheet has ${count(body.length, 'row')}; a set holds ${limits.tiles}, so the last ${left.toLocaleString('en-GB')} were left out.`,
    );
  if (cut) told.push(`${count(cut, 'row')} had more words than a tile holds; what came after was left out.`);
  return { rows, told };
}

const count = (n: number, what: string) => `${n.toLocaleString('en-GB')} ${what}${n === 1 ? '' : 's'}`;

interface Columns {
  readonly word: number | null;
  readonly line: number | null;
  readonly photo: number | null;
}

/** Which column is which by a row of headings; null where the row is no such. */
function columnsNamed(head: readonly string[]): Columns | null {
  const at = (known: readonly string[]) => {
    const found = head.findIndex((c) => known.includes(c.toLowerCase().replace(/[:_]+/g, ' ').trim()));
    return found < 0 ? null : found;
  };
  const named = { word: at(headings.word), line: at(headings.line), photo: at(headings.photo) };
  // One cell that is called so may be a word: “Title” alone is no heading.
  const known = Object.values(named).filter((n) => n !== null).length;
  return known > 1 || (known === 1 && head.filter(Boolean).length === 1 && named.photo !== null) ? named : null;
}

/** Which column is which by what is in them. */
function columnsFound(body: Cells): Columns {
  const width = Math.max(0, ...body.map((r) => r.length));
  const share = (column: number) =>
    body.filter((r) => PICTURE_FILE.test(r[column] ?? '')).length / Math.max(1, body.filter((r) => r[column]).length);
  const all = Array.from({ length: width }, (_, i) => i).filter((i) => body.some((r) => r[i]));
  const photo = all.find((i) => share(i) > 0.5) ?? null;
  const [word = null, line = null] = all.filter((i) => i !== photo);
  return { word, line, photo };
}
