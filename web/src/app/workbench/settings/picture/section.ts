import { Directive } from '@angular/core';
import type { PictureLayer } from '@bright-slot/core';
import { LayerSection } from '../section';

/** A section of a picture's settings. */
@Directive()
export abstract class PictureSection extends LayerSection<PictureLayer> {}
