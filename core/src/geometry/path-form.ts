import '../zod-setup';
import * as z from 'zod';
import { limits } from '../limits';
import { extent } from './lengths';

/** An outline as SVG path data (M, L, C, Q, Z) in a sheet that just holds it, px. */
export const PathForm = z.object({
  kind: z.literal('path'),
  data: z.string().max(limits.path),
  width: extent,
  height: extent,
});
export type PathForm = z.infer<typeof PathForm>;
