/**
 * Text with the quotes, dashes and dots of print for those of a typewriter, in British usage: “double” and ‘single’
 * quotes, an apostrophe for what stands within or before a word (’90s), – between figures and with spaces for a pause,
 * — for three hyphens, … for three dots, × between figures. Fields (`{date}`) are left as they are. Common practice, no
 * source.
 */
export function typographic(text: string): string {
  return text
    .replace(/\.{3}/g, '…')
    .replace(/---/g, '—')
    .replace(/--/g, '–')
    .replace(/(?<=\s)-(?=\s)/g, '–')
    .replace(/(?<=\d)\s?-\s?(?=\d)/g, '–')
    .replace(/(?<=\d)(\s?)[xX](\s?)(?=\d)/g, '$1×$2')
    .replace(/'(?=\d\ds?\b)/g, '’')
    .replace(/(^|[\s([{“‘–—/])"/g, '$1“')
    .replace(/"/g, '”')
    .replace(/(^|[\s([{“–—/])'/g, '$1‘')
    .replace(/'/g, '’');
}
