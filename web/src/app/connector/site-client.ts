import { Injectable, inject } from '@angular/core';
import * as z from 'zod';
import { Sites } from '../storage/sites.service';
import { type PageColours, Refusal, SentPicture, ShelfPicture, Site, bad, good, type Result } from '@bright-slot/core';

export interface Sending {
  readonly blob: Blob;
  readonly name: string;
  readonly slot: string;
  readonly alt: string;
  readonly graphic: { readonly id: string; readonly name: string; readonly state: string };
  /** The colours that the page is to wear with it. */
  readonly colours?: PageColours | null;
}

const unreachable = 'The site does not answer. Check that it is running, then try again; nothing here is lost.';

const noSite = bad('no-site', 'No site is set up yet. Save the file, and put it on your page yourself.');

/** Talks to the person's site (the stand-in) over its own origin. */
@Injectable({ providedIn: 'root' })
export class SiteClient {
  private readonly sites = inject(Sites);
  readonly origin = document.querySelector<HTMLMetaElement>('meta[name=site-origin]')?.content ?? '';

  /** Whether there is one. */
  private there(): Promise<boolean> {
    return this.sites.standIn().catch(() => false);
  }

  /** What the site has, and what it shows now. Fails with `no-site` where none is set up. */
  async site(): Promise<Result<Site>> {
    return (await this.there()) ? this.ask('/api/site', {}, Site) : noSite;
  }

  /** The pictures on its shelf; none where no site is set up. */
  async shelf(): Promise<Result<ShelfPicture[]>> {
    return (await this.there()) ? this.ask('/api/shelf', {}, z.array(ShelfPicture)) : good([]);
  }

  thumbAddress(picture: ShelfPicture): string {
    return `${this.origin}/thumbs/${picture.file}.jpg`;
  }

  async shelfFile(file: string): Promise<Result<Blob>> {
    try {
      const response = await fetch(`${this.origin}/shelf/${file}`);
      if (!response.ok) return bad('no-picture', 'The site’s shelf no longer has that picture.');
      return good(await response.blob());
    } catch {
      return bad('unreachable', unreachable);
    }
  }

  send(sending: Sending, signal?: AbortSignal): Promise<Result<SentPicture, Refusal>> {
    const body = new FormData();
    body.set('name', sending.name);
    body.set('slot', sending.slot);
    body.set('alt', sending.alt);
    body.set('graphicId', sending.graphic.id);
    body.set('graphicName', sending.graphic.name);
    body.set('graphicState', sending.graphic.state);
    if (sending.colours) body.set('colours', JSON.stringify(sending.colours));
    body.set('file', sending.blob, sending.name);
    return this.ask('/api/pictures', { method: 'POST', body, ...(signal ? { signal } : {}) }, SentPicture);
  }

  /** Shows a sent picture in a slot; null takes down what is shown. */
  show(slot: string, picture: string | null): Promise<Result<unknown>> {
    return this.put(`/api/slots/${encodeURIComponent(slot)}`, { picture });
  }

  /** Shows sent pictures side by side in a slot that shows several. */
  showRow(slot: string, pictures: readonly string[]): Promise<Result<unknown>> {
    return this.put(`/api/slots/${encodeURIComponent(slot)}`, { row: pictures });
  }

  /** Tells a page which colours to have; null for its own. */
  settings(page: string, colours: PageColours | null): Promise<Result<unknown>> {
    return this.put('/api/settings', { page, colours });
  }

  /** Lets the stand-in misbehave as real sites do, for trying; nothing given is nothing wrong. */
  faults(faults: Readonly<Record<string, number | boolean>>): Promise<Result<unknown>> {
    return this.put('/api/faults', faults);
  }

  private put(path: string, body: unknown): Promise<Result<unknown>> {
    const init = { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) };
    return this.ask(path, init, z.unknown());
  }

  private async ask<T>(path: string, init: RequestInit, schema: z.ZodType<T>): Promise<Result<T, Refusal>> {
    let response: Response;
    try {
      response = await fetch(`${this.origin}${path}`, init);
    } catch {
      return bad('unreachable', unreachable);
    }
    const body: unknown = await response.json().catch(() => null);
    if (!response.ok) {
      const refusal = Refusal.safeParse(body);
      return refusal.success
        ? { ok: false, problem: refusal.data }
        : bad('site', `The site answered with an error (${response.status}). Try again.`);
    }
    const parsed = schema.safeParse(body);
    return parsed.success
      ? good(parsed.data)
      : bad('site', 'The site answered in a way that could not be read. Try again.');
  }
}
