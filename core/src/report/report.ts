import { covered } from './covered';
import { busy } from './busy';
import { cut } from './cut';
import { fileNamed } from './file-named';
import { halfPixels } from './half-pixels';
import { heavy } from './heavy';
import { density } from './density';
import { doubled } from './doubled';
import { enlarged } from './enlarged';
import { faint } from './faint';
import { firstScreen } from './first-screen';
import { goneBy } from './gone-by';
import { hidden } from './hidden';
import { lastWord } from './last-word';
import { licensed } from './licensed';
import { located } from './located';
import { loss } from './loss';
import { makeable } from './makeable';
import { nearlyGround } from './nearly-ground';
import { outside } from './outside';
import { placeholder } from './placeholder';
import { repeated } from './repeated';
import { resized } from './resized';
import { rowFull } from './row-full';
import { safe } from './safe';
import type { LeftFinding } from '../graphic/frame';
import { thresholds } from './thresholds';
import { fixable, selectors, type Finding, type Need, type ReportContext, type Rule } from './rule';
import { seam } from './seam';
import { short } from './short';
import { soft } from './soft';
import { stray } from './stray';
import { subjectHidden } from './subject-hidden';
import { small } from './small';
import { straightQuotes } from './straight-quotes';
import { stretched } from './stretched';
import { takenSize } from './taken-size';
import { transparency } from './transparency';
import { undescribed } from './undescribed';
import { wasteful } from './wasteful';
import { watermarked } from './watermarked';
import { zones } from './zones';

/** All rules, in the order their findings are listed. */
export const rules: readonly Rule[] = [
  makeable,
  takenSize,
  heavy,
  density,
  resized,
  covered,
  short,
  stray,
  outside,
  zones,
  safe,
  cut,
  subjectHidden,
  seam,
  faint,
  busy,
  small,
  hidden,
  watermarked,
  enlarged,
  stretched,
  soft,
  halfPixels,
  transparency,
  placeholder,
  repeated,
  nearlyGround,
  firstScreen,
  rowFull,
  wasteful,
  loss,
  fileNamed,
  doubled,
  goneBy,
  straightQuotes,
  lastWord,
  licensed,
  located,
  undescribed,
];

/** A finding that was left. */
export interface LeftOne {
  readonly finding: Finding;
  readonly reason: string;
}

export interface FitReport {
  readonly findings: readonly Finding[];
  /** What was found and left as it is, and why. */
  readonly left: readonly LeftOne[];
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
  const judge = judgeBy(list);
  return (context) => {
    const judging = judge(context);
    for (;;) {
      const { done, value } = judging.next();
      if (done) return value;
    }
  };
}

/**
 * What the rules say of something that is looked at once. Between one rule and the next `rest` is asked; where it gives
 * a promise, that is waited for, so that others may have their turn.
 */
export async function reportAtRest(
  context: ReportContext,
  rest: () => Promise<unknown> | undefined,
  list: readonly Rule[] = rules,
): Promise<FitReport> {
  const judging = judgeBy(list)(context);
  for (;;) {
    const { done, value } = judging.next();
    if (done) return value;
    await rest();
  }
}

/** Judges rule after rule, and stops after each. */
function judgeBy(list: readonly Rule[]): (context: ReportContext) => Generator<undefined, FitReport, void> {
  const last = new Map<Rule, Judged>();
  let of = '';
  return function* (context) {
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
      else if (!found.length) {
        const said = typeof rule.passed === 'string' ? rule.passed : rule.passed(given as never);
        if (said) passed.push(said);
      }
      yield;
    }
    const told = findings.map((f) => toldAgain(f, frame.left));
    const open = told.filter((f): f is Finding => !('reason' in f));
    return {
      findings: [...open.filter((f) => f.group === 'before'), ...open.filter((f) => f.group === 'time')],
      left: told.filter((f): f is LeftOne => 'reason' in f),
      passed,
      waiting,
    };
  };
}

/** Whether figures are as they were when a finding was left, to within a tenth. */
const unchanged = (then: readonly number[], now: readonly number[]): boolean =>
  then.length === now.length &&
  then.every((n, i) => Math.abs(n - now[i]!) <= thresholds.leftChange.value * Math.max(Math.abs(n), 1e-9) + 1e-9);

/** A finding as one that was left, or again where its figures have changed since. */
function toldAgain(finding: Finding, left: readonly LeftFinding[]): Finding | LeftOne {
  const known = left.find((l) => l.finding === finding.id);
  if (!known) return finding;
  if (unchanged(known.figures, finding.figures ?? [])) return { finding, reason: known.reason };
  const { id, group, title, detail, at, layer, figures } = finding;
  const again = `You left it (“${known.reason}”), but it has changed since. ${detail}`;
  // Fixes are made when they are looked at: they stay so.
  return fixable(
    { id, group, title, detail: again, at, ...(layer ? { layer } : {}), ...(figures ? { figures } : {}) },
    () => finding.fixes,
  );
}

/** Reports on the frames of one graphic as one: what is found in several is told once. */
export function togetherReport(reports: readonly FitReport[]): FitReport {
  const findings = [...new Map(reports.flatMap((r) => r.findings.map((f) => [`${f.id} ${f.title}`, f]))).values()];
  const passed = reports[0]?.passed.filter((p) => reports.every((r) => r.passed.includes(p))) ?? [];
  const left = [...new Map(reports.flatMap((r) => r.left.map((l) => [l.finding.id, l]))).values()];
  return { findings, left, passed, waiting: reports.some((r) => r.waiting) };
}

/** "fits", "2 to fix" or "1 to look at". */
export function fitWord(report: FitReport): string {
  const before = report.findings.filter((f) => f.group === 'before').length;
  if (before) return `${before} to fix`;
  return report.findings.length ? `${report.findings.length} to look at` : 'fits';
}

/** The fit words of several as one: how many of them are to be mended, or looked at; empty while any is not known. */
export function fitWordOfAll(words: readonly (string | undefined)[]): string {
  if (!words.length || words.includes(undefined)) return '';
  const of = (what: string) => words.filter((w) => w!.endsWith(what)).length;
  const [fix, look] = [of('to fix'), of('to look at')];
  if (fix) return `${fix} of ${words.length} to fix`;
  if (look) return `${look} of ${words.length} to look at`;
  return words.every((w) => w === 'fits') ? 'all fit' : '';
}
