import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { coloursCss, coloursOf, type PageColours, type SiteRecord, type Slot } from '@bright-slot/core';
import { OwnPages } from '../storage/own-pages.service';
import { Sites } from '../storage/sites.service';
import { copyText } from '../ui/download';
import { SelectField } from '../ui/select-field';
import { TextField } from '../ui/text-field';

type Part = keyof PageColours;
const parts: readonly { readonly id: Part; readonly name: string }[] = [
  { id: 'ground', name: 'Ground' },
  { id: 'words', name: 'Words' },
  { id: 'accent', name: 'Accent' },
  { id: 'border', name: 'Border' },
  { id: 'heading', name: 'Type' },
];

/** The settings of a page that go with its graphic: used on this page, kept under a name, or every page's; and copied. */
@Component({
  selector: 'bs-page-settings',
  imports: [SelectField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>The page’s settings, to go with it</h3>
    <ul>
      @for (p of ordered(); track p.id; let first = $first) {
        <li>
          <button type="button" class="button small" [class.next]="p.id === next()" (click)="copyOne(p.id)">
            @if (p.id !== 'heading') {
              <span class="chip" [style.background]="p.value"></span>
            }
            {{ p.name }} <b>{{ p.value }}</b>
          </button>
          @if (!first) {
            <button
              type="button"
              class="button small bare"
              [attr.aria-label]="p.name + ' one place up'"
              (click)="up(p.id)"
            >
              ↑
            </button>
          }
        </li>
      }
    </ul>
    @if (takes()) {
      <p class="acts">
        <button type="button" class="button small main" (click)="told.emit(colours())">Send them to the page</button>
        <button type="button" class="button small" (click)="told.emit(null)">The page’s own again</button>
      </p>
    } @else {
      <p class="quiet small-text">
        This site takes no settings from outside: press them one by one in the order its form asks (each is copied), or
        take them as CSS.
      </p>
      <p class="acts">
        <button type="button" class="button small" (click)="copyNext()">Copy {{ nextName() }}</button>
        <button type="button" class="button small" (click)="copyCss()">Copy as CSS</button>
      </p>
    }
    @if (site().settings.length) {
      <bs-select label="Kept" [options]="kept()" [value]="usedName()" (changed)="use($event)" />
    }
    <form (submit)="$event.preventDefault(); keepAs(name.text())">
      <bs-text-field #name label="Keep as" placeholder="Autumn" [numeric]="false" text="" />
      <button type="submit" class="button small">Keep</button>
    </form>
    @if (usedName(); as used) {
      <p class="acts">
        @if (site().standard === used) {
          <span class="small-text">Every page of this site has it that has none of its own.</span>
          <button type="button" class="button small" (click)="standard(null)">No longer</button>
        } @else {
          <button type="button" class="button small" (click)="standard(used)">Make it every page’s</button>
        }
        <button type="button" class="button small bare" (click)="forget(used)">Forget “{{ used }}”</button>
      </p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 7px;
    }
    h3 {
      font-size: 13px;
      margin: 6px 0 0;
    }
    p {
      margin: 0;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
      display: grid;
      gap: 4px;
    }
    li,
    .acts {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 5px;
    }
    .chip {
      display: inline-block;
      width: 12px;
      height: 12px;
      border: 1px solid var(--border);
      border-radius: 3px;
    }
    .next {
      border-color: var(--ink);
    }
    form {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 6px;
    }
  `,
})
export class PageSettings {
  readonly site = input.required<SiteRecord>();
  readonly slot = input.required<Slot>();
  /** Whether the site takes them from outside; null is the page's own. */
  readonly takes = input(false);
  readonly told = output<PageColours | null>();
  private readonly own = inject(OwnPages);
  private readonly sites = inject(Sites);
  private readonly snack = inject(MatSnackBar);

  /** What the page has: its own, else the site's, else what is known of its look. */
  protected readonly colours = computed<PageColours>(() => {
    const { id } = this.slot();
    return this.own.of(id)?.colours ?? this.named(this.site().standard) ?? coloursOf(this.slot(), this.site().look);
  });
  /** The name under which what the page has is kept; empty where it is not. */
  protected readonly usedName = computed(() => {
    const now = JSON.stringify(this.colours());
    return this.site().settings.find((s) => JSON.stringify(s.colours) === now)?.name ?? '';
  });
  protected readonly kept = computed(() => [
    { id: '', name: 'not kept' },
    ...this.site().settings.map(({ name }) => ({
      id: name,
      name: name === this.site().standard ? `${name} (every page’s)` : name,
    })),
  ]);
  /** In the order the site's own form asks for them. */
  protected readonly ordered = computed(() => {
    const { order } = this.site();
    const colours = this.colours();
    const at = (id: string) => (order.includes(id) ? order.indexOf(id) : parts.findIndex((p) => p.id === id));
    return parts
      .flatMap((p) => {
        const value = colours[p.id];
        return value === null ? [] : [{ ...p, value }];
      })
      .sort((a, b) => at(a.id) - at(b.id));
  });
  /** How many were copied. */
  private readonly copied = signal(0);
  protected readonly next = computed(() => this.ordered()[this.copied() % this.ordered().length]!.id);
  protected readonly nextName = computed(() =>
    this.ordered()
      .find((p) => p.id === this.next())!
      .name.toLowerCase(),
  );

  private named(name: string | null): PageColours | undefined {
    return this.site().settings.find((s) => s.name === name)?.colours;
  }

  protected async copyOne(id: Part): Promise<void> {
    const at = this.ordered().findIndex((p) => p.id === id);
    const { name, value } = this.ordered()[at]!;
    if (await copyText(value)) this.snack.open(`${name} ${value} is copied.`);
    this.copied.set(at + 1);
  }

  protected copyNext(): Promise<void> {
    return this.copyOne(this.next());
  }

  protected async copyCss(): Promise<void> {
    if (await copyText(coloursCss(this.colours()))) this.snack.open('The settings are copied as CSS.');
  }

  protected async up(id: Part): Promise<void> {
    const order = this.ordered().map((p) => p.id as string);
    const at = order.indexOf(id);
    order.splice(at - 1, 2, id, order[at - 1]!);
    await this.sites.put({ ...this.site(), order });
  }

  /** Keeps what the page has under a name; one that is taken is changed, wherever it is used. */
  protected async keepAs(typed: string): Promise<void> {
    const name = typed.trim().slice(0, 60);
    if (!name) return;
    const site = this.site();
    const entry = { name, colours: this.colours() };
    const settings = site.settings.some((s) => s.name === name)
      ? site.settings.map((s) => (s.name === name ? entry : s))
      : [...site.settings, entry];
    await this.sites.put({ ...site, settings: settings.slice(0, 50) });
    this.back(`Kept as “${name}”.`, site);
  }

  protected async use(name: string): Promise<void> {
    const colours = this.named(name);
    const { id, ground, border } = this.slot();
    if (!colours) return;
    const before = this.own.of(id);
    await this.own.keepColours(id, colours, before?.was ?? { ground, border });
    this.snack
      .open(`“${this.slot().name}” has “${name}” now.`, 'Undo')
      .onAction()
      .subscribe(() => void this.own.restore(id, before));
  }

  protected async standard(name: string | null): Promise<void> {
    const site = this.site();
    await this.sites.put({ ...site, standard: name });
    this.back(name ? `Every page without settings of its own has “${name}”.` : 'No settings are every page’s.', site);
  }

  protected async forget(name: string): Promise<void> {
    const site = this.site();
    const standard = site.standard === name ? null : site.standard;
    await this.sites.put({ ...site, standard, settings: site.settings.filter((s) => s.name !== name) });
    this.back(`“${name}” is forgotten.`, site);
  }

  private back(said: string, site: SiteRecord): void {
    this.snack
      .open(said, 'Undo')
      .onAction()
      .subscribe(() => void this.sites.put(site));
  }
}
