import { rules } from './report';
import { subjects } from './rule';
import { thresholds } from './thresholds';

const cell = (text: string) => text.replaceAll('|', '\\|');

/** The rules of the fit report as a Markdown page: what each finds, by which figures, from where, and what mends it. */
export function rulesTable(): string {
  const parts = subjects.flatMap((about) => {
    const own = rules.filter((r) => r.about === about);
    if (!own.length) return [];
    const rows = own.map((r) => {
      const figures = r.by.map((name) => `${thresholds[name].value} ${thresholds[name].unit}`).join('; ') || 'none';
      const sources = [...new Set(r.by.map((name) => thresholds[name].source))].join('; ') || '—';
      return `| \`${r.id}\` | ${[r.what, figures, sources, r.mends].map(cell).join(' | ')} |`;
    });
    return [
      `## ${about}`,
      ['| rule | what it finds | figures | source | what mends it |', '| --- | --- | --- | --- | --- |', ...rows].join(
        '\n',
      ),
    ];
  });
  return (
    [
      '# The fit report’s rules',
      'Made from the rules themselves (`npm run fit-rules`); a test compares it with them. Each rule is a file of its own in `core/src/report/`; the figures stand together in `thresholds.ts`.',
      ...parts,
      '',
    ]
      .join('\n\n')
      .trimEnd() + '\n'
  );
}
