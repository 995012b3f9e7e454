import '../zod-setup';
import * as z from 'zod';
import { limits } from './limits';

export const LayerId = z.string().min(1).max(64);
/** A place on a canvas, px. */
export const coordinate = z.number().min(-limits.far).max(limits.far);
/** A length on a canvas, px. */
export const extent = z.number().positive().max(limits.far);

/** What every layer has. */
export const layerCommon = {
  id: LayerId,
  name: z.string().max(limits.name),
  visible: z.boolean(),
  locked: z.boolean(),
};
