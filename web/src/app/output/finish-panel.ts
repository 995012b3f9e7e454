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
import { limits, weightText } from '@bright-slot/core';
import { copyText } from '../ui/download';
import { Icon } from '../ui/icon';
import { ExportSession, labels } from './export-session';

/** Finishing where one works: with the choices made last, the description confirmed here; Enter sends. */
@Component({
  selector: 'bs-finish-panel',
  imports: [A11yModule, RouterLink, Icon],
  providers: [ExportSession],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(keydown.escape)': 'closed.emit()' },
  template: `
    @if (out.graphic(); as g) {
      <div role="dialog" aria-label="Finish" cdkTrapFocus>
        <label class="words"
          ><span class="small-text">What people hear who cannot see it</span
          ><textarea
            #field
            rows="2"
            [attr.maxlength]="most"
            placeholder="What it shows and says"
            [value]="alt()"
            (input)="alt.set($any($event.target).value)"
            (keydown.enter)="enter($event)"
          ></textarea>
        </label>
        @if (out.stale()) {
          <p class="small-text problem-text">Words or photo changed since this was written.</p>
        }
        <p class="file small-text">
          <span class="name">{{ out.name() }}</span>
          <span class="quiet"
            >{{ labels[out.format()] }}{{ out.format() === 'png' ? '' : ' ' + out.frame()!.export.quality }}
            {{ out.chosen()?.blob ? weight(out.chosen()!.blob!.size) : 'is being made …' }}</span
          >
        </p>
        @if (out.chosen()?.problem; as problem) {
          <p class="small-text problem-text" role="alert">{{ problem }}</p>
        }
        @if (out.open().length) {
          <div class="open small-text">
            <strong>{{ out.open().length === 1 ? 'Still open' : out.open().length + ' things still open' }}</strong>
            @for (title of out.open(); track title) {
              <span>{{ title }}</span>
            }
          </div>
        }
        @if (out.refused(); as r) {
          <p class="small-text problem-text" role="alert">
            {{ r.message }}
            @if (r.next) {
              <button type="button" class="button small" (click)="out.useNext(r.next)">Use {{ r.next }}</button>
            }
          </p>
        }
        @if (out.sent(); as s) {
          <div class="sent small-text" role="status">
            <strong>It is on the site.</strong> <span class="address">{{ s.address }}</span>
            <span class="row"
              ><a class="button small" [href]="out.visitorAddress()" target="_blank" rel="noopener"
                >See it as a visitor <bs-icon name="open" /></a
              ><button type="button" class="button small" (click)="copy(s.address)">Copy address</button></span
            >
          </div>
        } @else if (out.savedAs()) {
          <p class="small-text quiet" role="status">Saved as {{ out.savedAs() }}</p>
        }
        <div class="row">
          <a class="button bare small" [routerLink]="['/graphics', g.id, 'export']">Other choices</a>
          <span class="grow"></span>
          <button
            type="button"
            class="button"
            [title]="out.blocked() ? out.why() : ''"
            [disabled]="out.blocked()"
            (click)="save()"
          >
            Save file
          </button>
          <button
            type="button"
            class="button main"
            [disabled]="out.blocked() || !out.siteSlot()"
            [title]="
              out.siteSlot()
                ? out.blocked()
                  ? out.why()
                  : ''
                : 'The site has no slot of this size; save the file instead.'
            "
            (click)="send()"
          >
            {{ out.sending() ? 'Sending …' : 'Put on the site' }}
          </button>
        </div>
        @if (!out.siteSlot()) {
          <p class="quiet small-text">The site has no slot of this size. Enter saves the file.</p>
        } @else {
          <p class="quiet small-text">It goes into “{{ out.siteSlot()!.name }}”. Enter sends it.</p>
        }
      </div>
    }
  `,
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
    .file .name,
    .address {
      overflow-wrap: anywhere;
    }
    .file .quiet {
      white-space: nowrap;
    }
    .open,
    .sent {
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
  readonly id = input.required<string>();
  readonly closed = output();
  protected readonly out = inject(ExportSession);
  private readonly field = viewChild<ElementRef<HTMLTextAreaElement>>('field');
  protected readonly labels = labels;
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

  protected enter(event: Event): void {
    event.preventDefault();
    void (this.out.siteSlot() ? this.send() : this.save());
  }

  protected async save(): Promise<void> {
    if (!(await this.out.made())) return;
    this.describe();
    this.out.save();
  }

  protected async send(): Promise<void> {
    if (!(await this.out.made())) return;
    this.describe();
    await this.out.send();
  }

  protected async copy(address: string): Promise<void> {
    await copyText(address);
  }
}
