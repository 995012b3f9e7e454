import '../zod-setup';
import * as z from 'zod';
import { limits } from '../limits';

/** A place on a canvas, px. */
export const coordinate = z.number().min(-limits.far).max(limits.far);
/** A length on a canvas, px. */
export const extent = z.number().positive().max(limits.far);
