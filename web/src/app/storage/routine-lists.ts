import { ExportRoutine, MOST_EXPORT_ROUTINES, Routine, entries } from '@bright-slot/core';
import type * as z from 'zod';

/** The settings that routines are kept under: for exporting, and of steps. */
export const EXPORT_ROUTINES = 'export-routines';
export const STEP_ROUTINES = 'routines';
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
    key: EXPORT_ROUTINES,
    schema: ExportRoutine,
    most: MOST_EXPORT_ROUTINES,
  },
  { list: 'routines', entry: entries.routines, key: STEP_ROUTINES, schema: Routine, most: MOST_ROUTINES },
];
