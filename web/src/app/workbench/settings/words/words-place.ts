import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { blockInBox, layoutOf, scaledWords, turnedLayer, type Sizing, type WordsLayer } from '@bright-slot/core';
import { TypeService } from '../../../type/type.service';
import { Choice, type Option } from '../../../ui/choice';
import { NumberField } from '../../../ui/number-field';
import { AlignFields } from '../align-fields';
import { LayerSection } from '../section';

/** Where a block of words stands, how it is turned, and how large it is. */
@Component({
  selector: 'bs-words-place',
  imports: [AlignFields, Choice, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './words-place.html',
  styleUrl: './words-settings.scss',
})
export class WordsPlace extends LayerSection<WordsLayer> {
  private readonly type = inject(TypeService);
  private readonly layout = computed(() => {
    const shaper = this.type.shaper();
    return shaper ? layoutOf(this.layer(), shaper) : null;
  });
  protected readonly box = computed(() => this.layout()?.box ?? { x: 0, y: 0, width: 0, height: 0 });
  protected readonly sizings: readonly Option<Sizing['kind']>[] = [
    { id: 'grow', name: 'Grows with its words' },
    { id: 'wrap', name: 'Wraps at a width' },
    { id: 'fill', name: 'Fills a box' },
  ];

  protected sized(kind: Sizing['kind']): void {
    const before = this.layer();
    if (kind === before.sizing.kind) return;
    // Words that were sized to fill a box keep the size they are seen at.
    const by = before.sizing.kind === 'fill' ? (this.layout()?.by ?? 1) : 1;
    const layer = by === 1 ? before : { ...scaledWords(before, by), sizing: before.sizing };
    const { width, height, x, y } = this.box();
    const sizing: Sizing =
      kind === 'grow'
        ? { kind }
        : kind === 'wrap'
          ? { kind, width: Math.max(1, Math.ceil(width)) }
          : { kind, width: Math.max(1, Math.ceil(width)), height: Math.max(1, Math.ceil(height)) };
    // It stays where it is seen.
    const next = blockInBox({ ...layer, sizing }, { x, y, width: Math.ceil(width), height: Math.ceil(height) });
    this.workbench.change(
      next,
      `${layer.name}: ${{ grow: 'grows with its words', wrap: 'wraps at a width', fill: 'fills a box' }[kind]}`,
    );
  }

  protected block(change: Partial<{ width: number; height: number }>): void {
    const { x, y, width, height } = this.box();
    this.workbench.change(
      blockInBox(this.layer(), { x, y, width, height, ...change }),
      `${this.layer().name}: size of the block`,
      `block:${this.layer().id}`,
    );
  }

  protected setParagraphSpacing(paragraphSpacing: number): void {
    const layer = this.layer();
    this.workbench.change(
      { ...layer, paragraphSpacing },
      `${layer.name}: room between paragraphs`,
      `paragraphs:${layer.id}`,
    );
  }

  protected turn(degrees: number): void {
    const turned = turnedLayer(this.layer(), degrees);
    this.workbench.change(turned, `${turned.name} turned by ${turned.turn}°`, `turn:${turned.id}`);
  }

  protected moveTo(axis: 'x' | 'y', to: number): void {
    const layer = this.layer();
    const by = to - this.box()[axis];
    this.workbench.change(
      { ...layer, place: { ...layer.place, [axis]: layer.place[axis] + by } },
      `${layer.name} moved`,
      `place:${layer.id}`,
    );
  }
}
