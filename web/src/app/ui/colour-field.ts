import { CdkTrapFocus } from '@angular/cdk/a11y';
import { CdkConnectedOverlay, CdkOverlayOrigin, type ConnectedPosition } from '@angular/cdk/overlay';
import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { readColour } from '@bright-slot/core';
import { ColourPanel } from './colour-panel';
import { ColourHelp } from './colour-help';
import { valueOf } from './event-value';

const above: ConnectedPosition = {
  originX: 'start',
  originY: 'top',
  overlayX: 'start',
  overlayY: 'bottom',
  offsetY: -6,
};
const below: ConnectedPosition = {
  originX: 'start',
  originY: 'bottom',
  overlayX: 'start',
  overlayY: 'top',
  offsetY: 6,
};

/** The one colour control: house colours to hand, the hex figure, and a panel with every other way. */
@Component({
  selector: 'bs-colour',
  imports: [CdkConnectedOverlay, CdkOverlayOrigin, CdkTrapFocus, ColourPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './colour-field.html',
  styles: `
    fieldset {
      border: 0;
      padding: 0;
      margin: 0;
      display: flex;
      align-items: center;
      gap: 6px;
      min-width: 0;
    }
    .swatch {
      width: 26px;
      height: 26px;
      border-radius: var(--corner);
      border: 1px solid var(--border);
      cursor: pointer;
      padding: 0;
      flex: none;
    }
    .swatch[aria-pressed='true'] {
      outline: 2px solid var(--ink);
      outline-offset: 2px;
    }
    .field {
      padding: 0 8px;
    }
    .picker {
      width: 24px;
      height: 24px;
      flex: none;
      cursor: pointer;
      border: 1px solid var(--border);
      border-radius: 4px;
      padding: 0;
    }
    .hex {
      width: 64px;
      flex: none;
    }
  `,
})
export class ColourField {
  protected readonly valueOf = valueOf;
  readonly label = input('Colour');
  readonly value = input.required<string>();
  /** Colours to hand beside the field; the house style's unless given. */
  readonly swatches = input<readonly string[] | null>(null);
  readonly disabled = input(false);
  readonly changed = output<string>();
  readonly drafted = output<string>();
  private readonly help = inject(ColourHelp);
  private readonly opener = viewChild.required<ElementRef<HTMLButtonElement>>('opener');
  protected readonly positions = [above, below];
  protected readonly open = signal(false);
  protected readonly toHand = computed(
    () => this.swatches()?.map((colour) => ({ name: colour, colour })) ?? this.help.few(),
  );
  protected readonly text = linkedSignal(() => this.value());

  protected commit(): void {
    const read = readColour(this.text());
    if (!read) this.text.set(this.value());
    else if (read !== this.value()) this.choose(read);
  }

  protected choose(colour: string): void {
    this.help.used(colour);
    this.changed.emit(colour);
  }

  protected key(event: KeyboardEvent): void {
    if (event.key !== 'Escape') return;
    event.preventDefault();
    event.stopPropagation();
    this.help.calledOff();
    this.close();
  }

  protected close(): void {
    if (!this.open()) return;
    this.open.set(false);
    this.opener().nativeElement.focus();
  }

  /** The panel makes room for the canvas, and comes back with what was taken. */
  protected async fromCanvas(taken: Promise<string | null>): Promise<void> {
    this.open.set(false);
    const colour = await taken;
    if (colour) this.choose(colour);
    this.opener().nativeElement.focus();
  }
}
