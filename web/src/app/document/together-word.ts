/** The fit words of several as one: how many of them are to be mended, or looked at. */
export function togetherWord(words: readonly string[]): string {
  const of = (what: string) => words.filter((w) => w.includes(what)).length;
  const [fix, look] = [of('to fix'), of('to look at')];
  if (fix) return `${fix} of ${words.length} to fix`;
  if (look) return `${look} of ${words.length} to look at`;
  return words.every((w) => w === 'fits') ? 'all fit' : '';
}
