import '../zod-setup';
import * as z from 'zod';
import { limits } from '../limits';

export const LayerId = z.string().min(1).max(64);
/** Layers that are handled together; each says so itself, by the same id. They lie next to each other (`groups.ts`). */
export const Group = z.object({ id: LayerId, name: z.string().max(limits.name) });
export type Group = z.infer<typeof Group>;

/** What every layer has. */
export const layerCommon = {
  id: LayerId,
  name: z.string().max(limits.name),
  visible: z.boolean(),
  locked: z.boolean(),
  group: Group.optional(),
};
