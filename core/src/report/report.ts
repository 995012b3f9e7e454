import { covered } from './covered';
import { cut } from './cut';
import { doubled } from './doubled';
import { enlarged } from './enlarged';
import { faint } from './faint';
import { firstScreen } from './first-screen';
import { goneBy } from './gone-by';
import { hidden } from './hidden';
import { lastWord } from './last-word';
import { licensed } from './licensed';
import { makeable } from './makeable';
import { nearlyGround } from './nearly-ground';
import { outside } from './outside';
import { placeholder } from './placeholder';
import { repeated } from './repeated';
import { safe } from './safe';
import { selectors, type Finding, type Need, type ReportContext, type Rule } from './rule';
import { short } from './short';
import { small } from './small';
import { straightQuotes } from './straight-quotes';
import { stretched } from './stretched';
import { takenSize } from './taken-size';
import { transparency } from './transparency';
import { undescribed } from './undescribed';
import { wasteful } from './wasteful';
import { zones } from './zones';

/** All rules, in the order their findings are listed. */
export const rules: readonly Rule[] = [
  makeable,
  takenSize,
  covered,
  short,
  outside,
  zones,
  safe,
  cut,
  faint,
  small,
  hidden,
  enlarged,
  stretched,
  transparency,
  placeholder,
  repeated,
  nearlyGround,
  firstScreen,
  wasteful,
  doubled,
  goneBy,
  straightQuotes,
  lastWord,
  licensed,
  undescribed,
];

export interface FitReport {
  readonly findings: readonly Finding[];
  /** What was checked and found right. */
  readonly passed: readonly string[];
  /** Whether a rule still waits for what it needs. */
  readonly waiting: boolean;
}

/** What a rule was last given, and what it found. */
interface Judged {
  readonly given: Partial<Record<Need, unknown>>;
  readonly found: readonly Finding[] | null;
  /** What stands in the report: what was found last, while the rule cannot say yet. */
  readonly shown: readonly Finding[];
}

/**
 * A judge that remembers: each rule runs again only when something it needs is another value than last time. While a
 * rule waits for a fact, what it found last stands, as far as its layers are there still.
 */
export function createReporter(list: readonly Rule[] = rules): (context: ReportContext) => FitReport {
  const last = new Map<Rule, Judged>();
  let of = '';
  return (context) => {
    const { graphic, frame } = context;
    // Of another graphic, or another frame, nothing is remembered.
    if (of !== `${graphic.id}/${frame.id}`) last.clear();
    of = `${graphic.id}/${frame.id}`;
    const findings: Finding[] = [];
    const passed: string[] = [];
    let waiting = false;
    for (const rule of list) {
      const given = Object.fromEntries(rule.needs.map((n) => [n, selectors[n](context)]));
      const before = last.get(rule);
      const same = before && rule.needs.every((n) => before.given[n] === given[n]);
      const found = same ? before.found : rule.judge(given as never);
      const there = (f: Finding) => f.layer === undefined || graphic.layers.some((l) => l.id === f.layer && l.visible);
      const shown = found ?? (before?.shown ?? []).filter(there);
      last.set(rule, { given, found, shown });
      findings.push(...shown);
      if (!found) waiting = true;
      else if (!found.length) passed.push(rule.passed);
    }
    return {
      findings: [...findings.filter((f) => f.group === 'before'), ...findings.filter((f) => f.group === 'time')],
      passed,
      waiting,
    };
  };
}

/** Reports on the frames of one graphic as one: what is found in several is told once. */
export function togetherReport(reports: readonly FitReport[]): FitReport {
  const findings = [...new Map(reports.flatMap((r) => r.findings.map((f) => [`${f.id} ${f.title}`, f]))).values()];
  const passed = reports[0]?.passed.filter((p) => reports.every((r) => r.passed.includes(p))) ?? [];
  return { findings, passed, waiting: reports.some((r) => r.waiting) };
}

/** "fits", "2 to fix" or "1 to look at". */
export function fitWord(report: FitReport): string {
  const before = report.findings.filter((f) => f.group === 'before').length;
  if (before) return `${before} to fix`;
  return report.findings.length ? `${report.findings.length} to look at` : 'fits';
}
