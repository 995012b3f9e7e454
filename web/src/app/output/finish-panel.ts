import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  viewChild,
} from '@angular/core';
import { A11yModule } from '@angular/cdk/a11y';
import { RouterLink } from '@angular/router';
import { hasQuality, pictureFormats, limits, weightText } from '@bright-slot/core';
import { ExportSession } from './export-session';
import { FileTrials } from './file-trials';
import { SentNote } from './sent-note';
import { valueOf } from '../ui/event-value';

/** Finishing where one works: with the lightest file that looks the same, or the one that was chosen; the description confirmed here; Enter sends. */
@Component({
  selector: 'bs-finish-panel',
  imports: [A11yModule, RouterLink, SentNote],
  providers: [ExportSession, FileTrials],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(keydown.escape)': 'closed.emit()' },
  templateUrl: './finish-panel.html',
  styles: `
    :host {
      position: absolute;
      z-index: 30;
      top: 46px;
      right: 16px;
      width: 400px;
      max-width: calc(100vw - 32px);
      background: var(--surface);
      border: 1px solid var(--border);
      border-radius: var(--corner);
      box-shadow: 0 10px 34px rgb(31 42 48 / 26%);
    }
    [role='dialog'] {
      display: flex;
      flex-direction: column;
      gap: 9px;
      padding: 14px 16px 12px;
    }
    p {
      margin: 0;
    }
    .words {
      display: flex;
      flex-direction: column;
      gap: 4px;
    }
    textarea {
      font: inherit;
      color: var(--ink);
      padding: 7px 9px;
      border: 1px solid var(--border);
      border-radius: var(--corner);
      background: var(--surface);
      resize: vertical;
    }
    .file {
      display: flex;
      gap: 10px;
      justify-content: space-between;
    }
    .file .name {
      overflow-wrap: anywhere;
    }
    .file .quiet {
      white-space: nowrap;
    }
    .open {
      display: flex;
      flex-direction: column;
      gap: 3px;
      padding: 7px 10px;
      border-left: 3px solid var(--light);
      background: var(--light-pale);
    }
    .row {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    .grow {
      flex: 1;
    }
  `,
})
export class FinishPanel {
  protected readonly valueOf = valueOf;
  readonly id = input.required<string>();
  readonly closed = output();
  protected readonly out = inject(ExportSession);
  private readonly field = viewChild<ElementRef<HTMLTextAreaElement>>('field');
  protected readonly formats = pictureFormats;
  protected readonly hasQuality = hasQuality;
  protected readonly weight = weightText;
  protected readonly most = limits.description;
  /** What stands in the field: the description there is, else the one proposed. */
  protected readonly alt = linkedSignal(() => this.given() || this.out.proposed());
  private readonly given = computed(() => this.out.frame()?.export.alt ?? '');

  constructor() {
    afterNextRender(() => {
      void this.out.begin(this.id(), 'chosen');
      // The graphic is there once its session has begun.
      setTimeout(() => this.field()?.nativeElement.focus());
    });
  }

  /** Words in the field are of what is there now. */
  private describe(): void {
    const alt = this.alt().trim();
    if (alt && (alt !== this.given() || this.out.stale())) this.out.setAlt(alt, true);
  }

  protected async enter(event: Event): Promise<void> {
    event.preventDefault();
    await this.out.siteAsked;
    await (this.out.siteSlot() ? this.send() : this.save());
  }

  protected async save(): Promise<void> {
    if (!(await this.out.made())) return;
    this.describe();
    void this.out.save();
  }

  protected async send(): Promise<void> {
    if (!(await this.out.made())) return;
    this.describe();
    await this.out.send();
  }
}
