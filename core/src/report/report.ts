import { covered } from './covered';
import { enlarged } from './enlarged';
import { faint } from './faint';
import { makeable } from './makeable';
import { outside } from './outside';
import { stretched } from './stretched';
import { selectors, type Finding, type Need, type ReportContext, type Rule } from './rule';
import { transparency } from './transparency';
import { undescribed } from './undescribed';

/** All rules, in the order their findings are listed. */
export const rules: readonly Rule[] = [
  makeable,
  covered,
  faint,
  outside,
  enlarged,
  stretched,
  transparency,
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
