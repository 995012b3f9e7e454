import { Injectable, inject } from '@angular/core';
import { Demo, bad, good, type Result } from '@bright-slot/core';
import { SiteClient } from './site-client';

const silent = bad('unreachable', 'The demo does not answer. Check that Bright Slot is running, then try again.');

/** Where the demo comes from, if it was started with. */
@Injectable({ providedIn: 'root' })
export class DemoSource {
  private readonly site = inject(SiteClient);
  private readonly address = document.querySelector<HTMLMetaElement>('meta[name=demo]')?.content ?? '';
  /** Whether there is one. */
  readonly there = this.address.startsWith('/');
  private fetched: Demo | undefined;

  /** All it brings. */
  async all(): Promise<Result<Demo>> {
    if (this.fetched) return good(this.fetched);
    const answer = await fetch(this.address).catch(() => null);
    if (!answer?.ok) return silent;
    const read = Demo.safeParse(await answer.json().catch(() => null));
    if (!read.success)
      return bad('damaged', 'The demo cannot be read here. Reload the page to get the newest Bright Slot.');
    return good((this.fetched = read.data));
  }

  /** Its screenshot to measure slots on. */
  async shot(): Promise<Result<File>> {
    const demo = await this.all();
    if (!demo.ok) return demo;
    const got = await fetch(`${this.site.origin}/${demo.value.shot}`).catch(() => null);
    if (!got?.ok) return bad('unreachable', 'The demo site does not answer. Drop a screenshot of your own instead.');
    return good(new File([await got.blob()], demo.value.shot.split('/').at(-1)!));
  }
}
