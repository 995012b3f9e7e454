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

/**
 * A judge that remembers: each rule runs again only when something it needs is
 * another value than last time.
 */
export function createReporter(list: readonly Rule[] = rules): (context: ReportContext) => FitReport {
  const last = new Map<Rule, { given: Partial<Record<Need, unknown>>; found: readonly Finding[] | null }>();
  return (context) => {
    const findings: Finding[] = [];
    const passed: string[] = [];
    let waiting = false;
    for (const rule of list) {
      const given = Object.fromEntries(rule.needs.map((n) => [n, selectors[n](context)]));
      const before = last.get(rule);
      const same = before && rule.needs.every((n) => before.given[n] === given[n]);
      const found = same ? before.found : rule.judge(given as never);
      last.set(rule, { given, found });
      if (found?.length) findings.push(...found);
      else if (found) passed.push(rule.passed);
      else waiting = true;
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
