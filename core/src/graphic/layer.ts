import '../zod-setup';
import * as z from 'zod';
import { limits } from '../limits';

export const LayerId = z.string().min(1).max(64);
/** What every layer has. */
export const layerCommon = {
  id: LayerId,
  name: z.string().max(limits.name),
  visible: z.boolean(),
  locked: z.boolean(),
};
