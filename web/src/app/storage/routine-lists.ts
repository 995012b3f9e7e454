import { ExportRoutine, MOST_EXPORT_ROUTINES, Routine, entries } from '@bright-slot/core';
import type * as z from 'zod';

/** Most named steps that are kept. */
export const MOST_ROUTINES = 100;

/** Lists of routines: the setting each is kept under, and its entry in a backup. */
export const routineLists: readonly {
  readonly list: 'exportRoutines' | 'routines';
  readonly entry: string;
  readonly key: string;
  readonly schema: z.ZodType<{ id: string; name: string }>;
  readonly most: number;
}[] = [
  {
    list: 'exportRoutines',
    entry: entries.exportRoutines,
    key: 'export-routines',
    schema: ExportRoutine,
    most: MOST_EXPORT_ROUTINES,
  },
  { list: 'routines', entry: entries.routines, key: 'routines', schema: Routine, most: MOST_ROUTINES },
];
