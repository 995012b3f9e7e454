import { Injectable } from '@angular/core';
import { LayoutTries } from '../layouts/layout-tries';

/** Pictures of the person's own graphics as layouts. */
@Injectable()
export class OwnTries extends LayoutTries {}
