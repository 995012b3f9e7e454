import '../zod-setup';
import * as z from 'zod';

export const LayerId = z.string().min(1).max(64);
/** A place on a canvas, px. */
export const coordinate = z.number().min(-1e6).max(1e6);
/** A length on a canvas, px. */
export const extent = z.number().positive().max(1e6);

/** What every layer has. */
export const layerCommon = {
  id: LayerId,
  name: z.string().max(120),
  visible: z.boolean(),
  locked: z.boolean(),
};
