import { defineRule, type Finding } from './rule';
import { paragraphsOf, visibleWords } from './said';
import { called } from './wording';

const MONTHS = [
  'january',
  'february',
  'march',
  'april',
  'may',
  'june',
  'july',
  'august',
  'september',
  'october',
  'november',
  'december',
];
const month =
  '(jan(?:uary)?|feb(?:ruary)?|mar(?:ch)?|apr(?:il)?|may|june?|july?|aug(?:ust)?|sep(?:t(?:ember)?)?|oct(?:ober)?|nov(?:ember)?|dec(?:ember)?)';
const day = '(\\d{1,2})(?:st|nd|rd|th)?';
const year = '(?:,?\\s+(\\d{4}))?';
const DAY_FIRST = new RegExp(`(?<![\\p{L}\\p{N}])${day}\\s+(?:of\\s+)?${month}\\.?${year}(?![\\p{L}\\p{N}])`, 'giu');
const MONTH_FIRST = new RegExp(`(?<![\\p{L}\\p{N}])${month}\\.?\\s+${day}${year}(?![\\p{L}\\p{N}:])`, 'giu');
/** ISO 8601, and days with dots. */
const ISO = /(?<![\d-])(\d{4})-(\d{2})-(\d{2})(?![\d-])/g;
const DOTS = /(?<![\d.])(\d{1,2})\.(\d{1,2})\.(\d{4})(?![\d.])/g;

interface Named {
  readonly text: string;
  readonly year: number | null;
  readonly month: number;
  readonly day: number;
}

/** The days that a text names in full enough to be told: day and month at least. */
export function daysNamed(text: string): Named[] {
  const monthOf = (name: string) => MONTHS.findIndex((m) => m.startsWith(name.toLocaleLowerCase().slice(0, 3))) + 1;
  const all: Named[] = [
    ...[...text.matchAll(DAY_FIRST)].map((m) => ({
      text: m[0],
      day: Number(m[1]),
      month: monthOf(m[2]!),
      year: m[3] ? Number(m[3]) : null,
    })),
    ...[...text.matchAll(MONTH_FIRST)].map((m) => ({
      text: m[0],
      day: Number(m[2]),
      month: monthOf(m[1]!),
      year: m[3] ? Number(m[3]) : null,
    })),
    ...[...text.matchAll(ISO)].map((m) => ({ text: m[0], year: Number(m[1]), month: Number(m[2]), day: Number(m[3]) })),
    ...[...text.matchAll(DOTS)].map((m) => ({
      text: m[0],
      day: Number(m[1]),
      month: Number(m[2]),
      year: Number(m[3]),
    })),
  ];
  return all.filter((d) => {
    const date = new Date(Date.UTC(d.year ?? 2024, d.month - 1, d.day));
    return d.month >= 1 && d.month <= 12 && date.getUTCMonth() === d.month - 1 && date.getUTCDate() === d.day;
  });
}

const DAY = 86_400_000;

/** How many days ago a day was, as it is meant on another (YYYY-MM-DD); 0 and less is still to come. One without a year is the nearest. */
export function daysAgo({ year, month, day }: Omit<Named, 'text'>, today: string): number {
  const now = Date.parse(`${today}T00:00:00Z`);
  const ago = (y: number) => Math.round((now - Date.UTC(y, month - 1, day)) / DAY);
  if (year !== null) return ago(year);
  const own = Number(today.slice(0, 4));
  return [own - 1, own, own + 1].map(ago).reduce((a, b) => (Math.abs(b) < Math.abs(a) ? b : a));
}

/** A date that has gone by tells visitors that nobody looks after the page. */
export const goneBy = defineRule({
  id: 'gone-by',
  about: 'Words',
  what: 'A date in the words that has gone by (one without a year is taken to be the nearest).',
  by: [],
  mends: 'Nothing here mends it: write the new date, or take the words away.',
  passed: 'No date in the words has gone by',
  needs: ['layers', 'today'],
  judge({ layers, today }): Finding[] {
    return visibleWords(layers).flatMap((layer): Finding[] => {
      const days = paragraphsOf(layer).flatMap(daysNamed);
      // "3 to 12 October" is over when its last day is.
      const ages = days.map((d) => ({ ...d, ago: daysAgo(d, today) }));
      if (!ages.length || ages.some((d) => d.ago <= 0)) return [];
      const last = ages.reduce((a, b) => (b.ago < a.ago ? b : a));
      return [
        {
          id: `gone-by:${layer.id}`,
          group: 'time',
          title: `“${last.text}” in ${called(layer)} was ${last.ago === 1 ? 'yesterday' : `${last.ago} days ago`}`,
          detail: 'Write the new date, or take it away.',
          at: null,
          layer: layer.id,
          fixes: [],
        },
      ];
    });
  },
});
