import { withWatermark } from '../export/watermark';
import { defineRule, type Finding, type Fix } from './rule';

/** A watermark is laid over the file when it leaves, so nobody who composes sees what it lies on. */
export const watermarked = defineRule({
  id: 'watermarked',
  about: 'Readable',
  what: 'The person’s watermark lying over words or a logo, or one that cannot be drawn.',
  by: [],
  mends: 'The file without it.',
  passed: ({ watermark }) => (watermark ? 'The watermark leaves words and logos free' : ''),
  needs: ['layers', 'canvas', 'frame', 'frames', 'shaper', 'watermark'],
  judge({ layers, canvas, frame, frames, shaper, watermark }): Finding[] {
    const own = frames.find((f) => f.id === frame);
    if (!watermark || !own) return [];
    const fixes: Fix[] = [
      {
        label: 'Leave it off this file',
        edit: { type: 'set-export', frame, name: 'Without the watermark', choices: { watermark: undefined } },
      },
    ];
    const marked = withWatermark({ layers, canvas }, own, watermark, shaper);
    if (!marked.ok)
      return [
        {
          id: 'watermarked',
          group: 'before',
          title: 'The watermark cannot be laid over it',
          detail: marked.problem.message,
          at: null,
          fixes,
        },
      ];
    const { covers } = marked.value;
    if (!covers.length) return [];
    const [first, ...others] = covers;
    const more = others.length ? ` and ${others.length} more` : '';
    return [
      {
        id: 'watermarked',
        // All over is meant to lie on everything.
        group: watermark.repeated ? 'time' : 'before',
        title: `The watermark lies over “${first}”${more}`,
        detail:
          watermark.repeated || watermark.place === 'room'
            ? 'Make it smaller or fainter on Export, or leave it off this file.'
            : 'Put it “where there is room” on Export, or leave it off this file.',
        at: null,
        figures: [covers.length],
        fixes,
      },
    ];
  },
});
