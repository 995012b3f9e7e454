import type { WordsLayer } from '../graphic/graphic';
import { concernsFrame } from '../graphic/frame';
import { scaledWords } from '../graphic/arrange';
import { shownOnDevices } from '../slot/shown';
import { layoutOf, wordsBounds } from '../words/layout';
import { freed, isLong, moveText, roomIn } from './free-move';
import { defineRule, fixable, type Finding, type Fix } from './rule';
import { thresholds } from './thresholds';
import { called, onDevice } from './wording';

const { value: least } = thresholds.letterHeight;
const px = (n: number) => `${Math.floor(n * 10 + 1e-6) / 10}`;

/** Type that is a few px high on a phone is not read, however well it stands out. */
export const small = defineRule({
  id: 'small',
  about: 'Readable',
  what: 'Words whose type is too small on a desktop, a tablet or a phone, as the page shows it there.',
  by: ['letterHeight'],
  mends: 'A larger size, moved where it needs room.',
  passed: 'All words are large enough on every screen',
  needs: ['layers', 'canvas', 'rect', 'frames', 'slot', 'shaper', 'assets'],
  judge({ layers, canvas, rect, frames, slot, shaper, assets }): Finding[] {
    const seen = shownOnDevices(slot);
    return layers
      .filter((l): l is WordsLayer => l.role === 'words' && l.visible)
      .flatMap((layer) => {
        const layout = layoutOf(layer, shaper);
        const sizes = layout.items.map((i) => i.size);
        if (!sizes.length) return [];
        const box = wordsBounds(layer, layout);
        if (!concernsFrame(box, rect, frames)) return [];
        const size = sizes.reduce((a, b) => Math.min(a, b));
        const worst = seen
          .map(({ device, shown }) => ({ device, shown, high: size * Math.min(shown.scale.x, shown.scale.y) }))
          .sort((a, b) => a.high - b.high)[0];
        if (!worst || worst.high >= least) return [];
        const { device, shown, high } = worst;
        const fixes = (): Fix[] => {
          if (layer.locked || layer.sizing.kind === 'fill' || isLong(layer)) return [];
          // Sizes come in tenths of a px.
          const wanted = Math.ceil((least / Math.min(shown.scale.x, shown.scale.y)) * 10) / 10;
          const larger = scaledWords(layer, wanted / (size / layout.by));
          const others = layers.map((l) => (l.id === layer.id ? larger : l));
          const room = roomIn({ slot, rect }, larger, others, canvas, shaper, assets);
          const done = freed(larger, room, canvas, shaper, assets);
          // Larger words that have no room would be another fault.
          if (done?.scale !== 1) return [];
          const moved = Math.hypot(done.by.x, done.by.y) > 0.05;
          const label = `Make it ${wanted} px${moved ? `, and ${moveText(done).replace(/^M/, 'm')}` : ''}`;
          const name = `${layer.name} at ${wanted} px`;
          return [{ label, edit: { type: 'replace-layer', name, layer: done.layer } }];
        };
        return [
          fixable(
            {
              id: `small:${layer.id}`,
              group: 'before',
              title: `${onDevice[device]} ${called(layer)} is ${px(high)} px high, needs ${least}`,
              detail: `Its smallest type is ${px(size)} px, and the picture is shown ${Math.round(shown.width)} px wide there.`,
              at: box,
              layer: layer.id,
              figures: [high],
            },
            fixes,
          ),
        ];
      });
  },
});
