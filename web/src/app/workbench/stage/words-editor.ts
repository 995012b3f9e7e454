import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  viewChild,
} from '@angular/core';
import {
  fieldsIn,
  firstRun,
  layoutOf,
  middleOf,
  textOf,
  wordsExtent,
  type WordsLayer,
  limits,
} from '@bright-slot/core';
import { FontsService } from '../../type/fonts.service';
import { TypeService } from '../../type/type.service';
import { Workbench } from '../../document/workbench';
import type { View } from './canvas-handles';
import { centred, written } from '../settings/words/writing';
import { valueOf } from '../../ui/event-value';

/** Room for the caret beside a line that grows, CSS px. */
const ROOM = 24;

const transforms = { typed: 'none', upper: 'uppercase', lower: 'lowercase', title: 'capitalize' } as const;

/**
 * Words edited where they stand: a field laid over them, of the same face, size and lines. What is written is painted
 * below it as ever; the field adds the caret, the selection and the browser's spelling.
 */
@Component({
  selector: 'bs-words-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<textarea
    #field
    rows="1"
    spellcheck="true"
    aria-label="The words, where they stand"
    [class.apart]="apart()"
    [value]="text()"
    [style.left.px]="box().left"
    [style.top.px]="box().top"
    [style.width.px]="box().width"
    [style.height.px]="box().height"
    [style.padding]="box().padding"
    [style.font-family]="css().family"
    [style.font-size.px]="css().size"
    [style.font-weight]="css().weight"
    [style.font-style]="css().style"
    [style.line-height]="css().line"
    [style.letter-spacing.em]="css().tracking"
    [style.text-transform]="css().transform"
    [style.text-align]="css().align"
    [style.white-space]="css().wrap"
    [style.caret-color]="css().caret"
    [style.transform]="css().turn"
    [style.transform-origin]="css().about"
    [attr.maxlength]="most"
    (paste)="workbench.pasting($event)"
    (input)="write(valueOf($event))"
    (select)="selected()"
    (keyup)="selected()"
    (pointerup)="selected()"
    (blur)="done()"
    (keydown.escape)="leave($event)"
  ></textarea>`,
  styles: `
    textarea {
      position: absolute;
      z-index: 4;
      box-sizing: border-box;
      border: 0;
      margin: 0;
      resize: none;
      overflow: hidden;
      background: none;
      color: transparent;
      font-kerning: normal;
      // The page's figures stand in columns; words' own do not.
      font-variant-numeric: normal;
      outline: 1.5px dashed var(--action, #1f6f5c);
      outline-offset: 4px;
    }
    textarea::selection {
      background: rgb(242 176 30 / 45%);
    }
    .apart {
      background: rgb(255 255 255 / 92%);
      color: var(--ink);
    }
  `,
})
export class WordsEditor {
  protected readonly valueOf = valueOf;
  readonly layer = input.required<WordsLayer>();
  readonly view = input.required<View>();
  protected readonly workbench = inject(Workbench);
  protected readonly most = limits.letters;
  private readonly type = inject(TypeService);
  private readonly fonts = inject(FontsService);
  private readonly field = viewChild.required<ElementRef<HTMLTextAreaElement>>('field');
  protected readonly text = computed(() => textOf(this.layer()));
  private readonly run = computed(() => firstRun(this.layer()));
  /** What the field cannot lay out as it is painted (fields, unlike paragraphs) is written on a sheet of its own. */
  protected readonly apart = computed(() => {
    const { face, size, tracking } = this.run();
    const alike = this.layer().paragraphs.every((p) =>
      p.runs.every(
        (r) =>
          r.size === size && r.tracking === tracking && r.face.family === face.family && r.face.weight === face.weight,
      ),
    );
    return !alike || fieldsIn(this.layer()).length > 0 || this.layer().paragraphSpacing > 0;
  });
  private readonly layout = computed(() => {
    const shaper = this.type.shaper();
    return shaper ? layoutOf(this.layer(), shaper) : null;
  });
  protected readonly box = computed(() => {
    const layout = this.layout();
    const { zoom, x, y } = this.view();
    const b = layout?.box ?? { x: 0, y: 0, width: 0, height: 0 };
    const { sizing, paragraphs } = this.layer();
    const room = sizing.kind === 'grow' ? ROOM : 0;
    const before = { left: 0, centre: room, right: 2 * room }[paragraphs[0]!.align];
    // A block that fills a box stands in the middle of it.
    const lines = (layout?.lines ?? 1) * this.layer().lineSpacing * this.run().size * (layout?.by ?? 1);
    const above = sizing.kind === 'fill' ? Math.max(0, (sizing.height - lines) / 2) * zoom : 0;
    return {
      left: x + b.x * zoom - before,
      top: y + b.y * zoom,
      width: b.width * zoom + 2 * room,
      height: Math.max(b.height * zoom, 1),
      padding: `${above}px ${2 * room - before}px 0 ${before}px`,
    };
  });
  protected readonly css = computed(() => {
    const { face, size, colour, tracking, case: letters } = this.run();
    const layer = this.layer();
    const layout = this.layout();
    const { zoom } = this.view();
    const family = this.fonts.named(face.family);
    const extent = layout && wordsExtent(layer, layout);
    const middle = extent ? middleOf(extent) : { x: 0, y: 0 };
    const { left, top } = this.box();
    const about = { x: this.view().x + middle.x * zoom - left, y: this.view().y + middle.y * zoom - top };
    return {
      family: family ? `${this.fonts.cssName(family)}, sans-serif` : 'sans-serif',
      size: size * (layout?.by ?? 1) * zoom,
      weight: face.weight,
      style: face.italic ? 'italic' : 'normal',
      line: layer.lineSpacing,
      tracking,
      transform: transforms[letters],
      align: { left: 'left', centre: 'center', right: 'right' }[layer.paragraphs[0]!.align],
      wrap: layer.sizing.kind === 'grow' ? 'pre' : 'pre-wrap',
      caret: this.apart() ? '#1f2a30' : colour,
      turn: layer.turn ? `rotate(${layer.turn}deg)` : 'none',
      about: `${about.x}px ${about.y}px`,
    };
  });

  constructor() {
    effect(() => {
      const family = this.fonts.named(this.run().face.family);
      if (family) void this.fonts.show(family);
    });
    afterNextRender(() => {
      this.field().nativeElement.focus();
      this.field().nativeElement.select();
    });
  }

  protected write(text: string): void {
    const { layer, name, merge, left } = written(this.layer(), this.text(), text);
    this.workbench.change(centred(this.layer(), layer, this.workbench.graphic(), this.type.shaper()), name, merge);
    if (!left) return;
    this.workbench.say(left);
    // The field still holds all of it.
    this.field().nativeElement.value = textOf(layer);
  }

  /** What is selected is what the settings below are for. */
  protected selected(): void {
    const { selectionStart: from, selectionEnd: to } = this.field().nativeElement;
    this.workbench.stretch.set(from === to ? null : { from, to });
  }

  protected leave(event: Event): void {
    event.preventDefault();
    event.stopPropagation();
    this.done();
  }

  protected done(): void {
    this.workbench.writingOn.set(null);
  }
}
