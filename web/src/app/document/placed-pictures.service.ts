import { Injectable, inject } from '@angular/core';
import { good, type PlacedPicture, type Result } from '@bright-slot/core';
import { PicturesService } from '../media/pictures.service';
import { ShelfService, type ShelfItem } from '../media/shelf/shelf.service';
import { placedPicture } from './new-layers';

/** Pictures as they are put in layouts: brought in where they were not yet, with what of them is to be kept in sight. */
@Injectable({ providedIn: 'root' })
export class PlacedPictures {
  private readonly shelf = inject(ShelfService);
  private readonly pictures = inject(PicturesService);

  /** One of the shelf. `looked`: whether it is looked at for its subject; a logo has none. */
  async of(item: ShelfItem, looked = true): Promise<Result<PlacedPicture>> {
    const brought = await this.shelf.bringIn(item);
    if (!brought.ok) return brought;
    const about = looked ? await this.shelf.subjectOf({ ...item, hash: brought.value.hash }) : null;
    return good(placedPicture(brought.value, about));
  }

  /** A file from this computer. */
  async file(file: File, signal?: AbortSignal): Promise<Result<PlacedPicture>> {
    const brought = await this.pictures.bringIn(file, {}, { signal });
    return brought.ok ? good(placedPicture(brought.value)) : brought;
  }
}
