import { Injectable, inject } from '@angular/core';
import { MOST_BYTES, Refusal, bad, cutText, good, tooHeavy, type CurrentPicture, type Result } from '@bright-slot/core';
import { readDrawing } from './drawings';
import { LONGEST, PixelsService } from '../pixels/pixels.service';

export interface Diagnosed {
  readonly facts: CurrentPicture;
  readonly blob: Blob;
  readonly name: string;
}

/** Pictures that are in use now, from a file or by their address. */
@Injectable({ providedIn: 'root' })
export class CurrentPictures {
  private readonly pixels = inject(PixelsService);

  async fromFile(file: Blob & { name?: string }): Promise<Result<Diagnosed>> {
    const name = file.name ?? '';
    if (file.size > MOST_BYTES) return tooHeavy(file.size, name);
    try {
      const facts = await this.pixels.files.within(LONGEST, { kind: 'diagnose-picture', blob: file, name });
      if (!facts.ok) return facts;
      if (facts.value.type !== 'svg') return good({ facts: facts.value, blob: file, name });
      // A drawing is shown only as it was made harmless: what looks small can mean millions of parts.
      const read = await readDrawing(file, name ? `“${cutText(name, 80, true)}”` : 'The drawing');
      return read.ok ? good({ facts: facts.value, blob: read.value.svg, name }) : read;
    } catch (error) {
      return bad('unreadable', error instanceof Error ? error.message : String(error));
    }
  }

  async fromAddress(address: string, signal?: AbortSignal): Promise<Result<Diagnosed>> {
    const file = await this.fileAt(address, signal);
    return file.ok ? this.fromFile(file.value) : file;
  }

  /** A picture by its address. Our own server fetches it, since few sites let another page read their pictures. */
  async fileAt(address: string, signal?: AbortSignal): Promise<Result<File>> {
    let response: Response;
    try {
      response = await fetch('/api/picture', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ address: address.trim() }),
        ...(signal ? { signal } : {}),
      });
    } catch {
      return signal?.aborted
        ? bad('stopped', 'Stopped.')
        : bad('unreachable', 'Bright Slot’s server does not answer. Start it again, or drop the picture here.');
    }
    if (!response.ok) {
      const refusal = Refusal.safeParse(await response.json().catch(() => null));
      return refusal.success
        ? { ok: false, problem: refusal.data }
        : bad('no-link', 'That picture could not be fetched.');
    }
    let name = 'picture';
    try {
      name = decodeURIComponent(response.headers.get('X-Picture-Name') ?? name);
    } catch {
      // A name is not worth the picture.
    }
    try {
      return good(new File([await response.blob()], name));
    } catch {
      return signal?.aborted
        ? bad('stopped', 'Stopped.')
        : bad('unreachable', 'The picture broke off on its way. Try again, or drop the picture here.');
    }
  }
}
