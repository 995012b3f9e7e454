import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import {
  devices,
  holdsSeveral,
  memberAt,
  membersWith,
  movedBy,
  sharesOf,
  weightText,
  type Device,
  type Member,
  type SentFile,
  type SiteRecord,
  type Slot,
} from '@bright-slot/core';
import { SiteSending } from '../output/site-sending';
import { PageLikeness, Pages, type Likeness } from '../page/page-likeness';
import { Sites } from '../storage/sites.service';
import { valueOf } from '../ui/event-value';

/** The widths at which a pool is played through, as wide as they are drawn, CSS px. */
const widths: Record<Device, number> = { desktop: 268, tablet: 150, phone: 84 };
const HIGH = 120;

/** The files that a place shows several of: at random, by their shares, or in a row, in their order. */
@Component({
  selector: 'bs-several',
  imports: [PageLikeness],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>{{ random() ? 'One of these at random' : 'In this order, ' + slot().rowShows + ' are seen' }}</h3>
    @if (there().length) {
      <ol>
        @for (m of there(); track m.file.id; let i = $index; let last = $last) {
          <li [class.beyond]="!random() && i >= slot().rowShows" [class.met]="playing() && i === met()">
            <img [src]="urlOf()(m.file.id)" alt="" />
            <span class="what small-text">
              @if (random()) {
                {{ m.file.name }}<br /><span class="quiet">{{ percent(i) }}, {{ weight(m.file.bytes) }}</span>
              } @else {
                <input
                  maxlength="60"
                  placeholder="which item"
                  [attr.aria-label]="'Item ' + (i + 1)"
                  [value]="m.member.label"
                  (change)="set(i, { label: valueOf($event).slice(0, 60) })"
                />
                {{ i >= slot().rowShows ? 'not seen' : m.file.name }}
              }
            </span>
            @if (random()) {
              <input
                class="share"
                type="number"
                min="0"
                max="100"
                [attr.aria-label]="'Share of ' + m.file.name"
                [value]="m.member.share"
                (change)="share(i, valueOf($event))"
              />
            } @else {
              <button
                type="button"
                class="button small bare"
                [disabled]="i === 0"
                [attr.aria-label]="name(m.member, i) + ' one place up'"
                (click)="move(i, -1)"
              >
                ↑
              </button>
              <button
                type="button"
                class="button small bare"
                [disabled]="last"
                [attr.aria-label]="name(m.member, i) + ' one place down'"
                (click)="move(i, 1)"
              >
                ↓
              </button>
            }
            <button
              type="button"
              class="button small bare"
              [attr.aria-label]="'Take ' + m.file.name + ' out'"
              (click)="out(m.file)"
            >
              ×
            </button>
          </li>
        }
      </ol>
      <p class="small-text" [class.problem-text]="beyond() > 0">
        {{
          random()
            ? there().length + ' in all, ' + weight(total()) + '; a visitor loads one of them.'
            : beyond() > 0
              ? beyond() + (beyond() === 1 ? ' is' : ' are') + ' not seen: the row shows ' + slot().rowShows + '.'
              : there().length + ' of ' + slot().rowShows + ' are there.'
        }}
      </p>
      @if (random()) {
        @if (playing()) {
          <div class="played">
            @for (d of seen(); track d.id) {
              <div class="window" [style.width.px]="d.drawn" [style.height.px]="high">
                <bs-page-likeness
                  [page]="d.likeness"
                  [style.width.px]="d.width"
                  [style.height.px]="(high * d.width) / d.drawn"
                  [style.transform]="'scale(' + d.drawn / d.width + ')'"
                />
              </div>
            }
          </div>
          <p class="acts">
            <button type="button" class="button small" (click)="next()">The next visitor</button>
            <button type="button" class="button small bare" (click)="playing.set(false)">Enough</button>
            <span class="small-text" role="status">{{ there()[met()]?.file?.name }}</span>
          </p>
        } @else {
          <button type="button" class="button small" (click)="playing.set(true)">Play them through</button>
        }
      }
    } @else {
      <p class="small-text quiet">Nothing stands there yet: each graphic that is sent joins the others.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 7px;
      justify-items: start;
      width: 100%;
    }
    h3 {
      font-size: 13px;
      margin: 6px 0 0;
    }
    p,
    ol {
      margin: 0;
    }
    ol {
      list-style: none;
      padding: 0;
      width: 100%;
    }
    li {
      display: flex;
      align-items: center;
      gap: 6px;
      padding: 4px 0;
      border-bottom: 1px solid var(--hairline);
    }
    li.met {
      background: var(--light-pale);
    }
    li.beyond img {
      opacity: 0.4;
    }
    img {
      width: 64px;
      max-height: 40px;
      object-fit: contain;
      border: 1px solid var(--hairline);
    }
    .what {
      flex: 1;
      min-width: 0;
      overflow-wrap: anywhere;
    }
    input {
      font: inherit;
      width: 100%;
      min-width: 0;
      color: var(--ink);
      padding: 3px 6px;
      border: 1px solid var(--border);
      border-radius: var(--corner);
      background: var(--surface);
    }
    .share {
      width: 56px;
    }
    .played,
    .acts {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 6px;
    }
    .window {
      position: relative;
      overflow: hidden;
      border: 1px solid var(--hairline);
    }
    bs-page-likeness {
      position: absolute;
      left: 0;
      top: 0;
    }
  `,
})
export class Several {
  readonly site = input.required<SiteRecord>();
  readonly slot = input.required<Slot>();
  readonly files = input.required<readonly SentFile[]>();
  /** Where a file's bytes are to be seen. */
  readonly urlOf = input.required<(id: string) => string | null>();
  readonly taken = output<SentFile>();
  private readonly sites = inject(Sites);
  private readonly pages = inject(Pages);
  private readonly sending = inject(SiteSending);
  protected readonly valueOf = valueOf;
  protected readonly weight = weightText;
  protected readonly high = HIGH;
  protected readonly random = computed(() => holdsSeveral(this.slot()) === 'random');
  protected readonly there = computed(() => membersWith(this.site().members[this.slot().id] ?? [], this.files()));
  private readonly members = computed(() => this.there().map((m) => m.member));
  protected readonly total = computed(() => this.there().reduce((sum, m) => sum + m.file.bytes, 0));
  protected readonly beyond = computed(() => Math.max(0, this.there().length - this.slot().rowShows));
  protected readonly playing = signal(false);
  /** What the visitor of the moment met, as a number from 0 up to 1. */
  private readonly chance = signal(0);
  protected readonly met = computed(() => memberAt(this.members(), this.chance()));
  protected readonly seen = computed(() => {
    const slot = this.slot();
    const file = this.there()[this.met()]?.file;
    const url = file ? this.urlOf()(file.id) : null;
    return devices.map((id): { id: Device; drawn: number; width: number; likeness: Likeness } => ({
      id,
      drawn: widths[id],
      width: this.pages.width(slot, id),
      likeness: this.pages.of(slot, url && file ? { url, alt: file.alt } : null, id),
    }));
  });

  protected percent(i: number): string {
    return `${Math.round(sharesOf(this.members())[i]! * 100)} %`;
  }

  protected name({ label }: Member, i: number): string {
    return label || `Item ${i + 1}`;
  }

  protected next(): void {
    // The next of the list first: by chance alone the same one may come three times.
    const shares = sharesOf(this.members());
    const at = (this.met() + 1) % shares.length;
    this.chance.set(shares.slice(0, at).reduce((a, b) => a + b, 0) + shares[at]! / 2);
  }

  private async put(members: Member[]): Promise<void> {
    const { id } = this.slot();
    await this.sites.change(this.site().id, (now) => ({ ...now, members: { ...now.members, [id]: members } }));
  }

  protected set(i: number, change: Partial<Member>): Promise<void> {
    return this.put(this.members().map((m, at) => (at === i ? { ...m, ...change } : m)));
  }

  protected async share(i: number, typed: string): Promise<void> {
    const share = Math.round(Number(typed));
    if (share >= 0 && share <= 100) await this.set(i, { share });
  }

  protected move(i: number, by: number): Promise<void> {
    return this.put(movedBy(this.members(), i, by));
  }

  /** Out of the several; the file stays where it is. */
  protected async out(file: SentFile): Promise<void> {
    await this.sending.leaves(this.site().id, file);
    this.taken.emit(file);
  }
}
