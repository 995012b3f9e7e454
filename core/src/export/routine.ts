import '../zod-setup';
import * as z from 'zod';
import { hasQuality, pictureFormats } from '../formats/registry';
import { weightText } from '../formats/weight';
import { Chroma, type ExportChoices } from '../graphic/frame';
import { Density, FileFormat, type Slot } from '../slot/slot';
import { nameFrom } from '../text';

/** Most routines that are kept. */
export const MOST_EXPORT_ROUTINES = 100;

/** Export choices under a name, to be made the same way again for any graphic. */
export const ExportRoutine = z.object({
  id: z.string().min(1).max(80),
  name: z.string().min(1).max(60),
  /** The lightest file that looks the same, or one that was chosen. */
  file: z.union([
    z.literal('lightest'),
    z.object({ format: FileFormat, quality: z.number().int().min(1).max(100), chroma: Chroma }),
  ]),
  /** Device px a CSS px; null makes those that the slot asks for. */
  densities: z.array(Density).min(1).max(3).nullable(),
  /** Most bytes a file may have; null leaves it to the slot. */
  mostBytes: z.number().int().min(1000).max(1e9).nullable(),
  ppi: z.number().int().min(36).max(1200).nullable(),
  /** Whether its files carry the house's watermark. */
  watermark: z.boolean().default(false),
  /** The slots it is put on, by their ids: their graphics offer it first. */
  slots: z.array(z.string().min(1).max(80)).max(500),
});
export type ExportRoutine = z.infer<typeof ExportRoutine>;

/** The choices of a frame as a routine, put on its slot. `name` is cut to what a name may have; empty ones get one. */
export function exportRoutineOf(
  id: string,
  name: string,
  choices: ExportChoices,
  slot: Pick<Slot, 'id'>,
): ExportRoutine {
  const { format, quality, chroma = '444', own = false, densities, mostBytes, ppi, watermark = false } = choices;
  return {
    id,
    name: nameFrom(name, 60, 'Routine'),
    file: own ? { format, quality, chroma } : 'lightest',
    densities: densities ? [...densities] : null,
    mostBytes: mostBytes ?? null,
    ppi: ppi ?? null,
    watermark,
    slots: [slot.id],
  };
}

/** What a routine does, in a few words. */
export function routineText({ file, densities, mostBytes, ppi, watermark }: ExportRoutine): string {
  const plain = file !== 'lightest' && !hasQuality(file.format);
  const said = [
    file === 'lightest'
      ? 'The lightest that looks the same'
      : `${pictureFormats[file.format].name}${plain ? '' : ` at quality ${file.quality}`}${file.chroma === '420' ? ', 4:2:0' : ''}`,
    densities ? densities.map((d) => `${d}×`).join(' and ') : 'the slot’s densities',
  ];
  if (mostBytes !== null) said.push(`at most ${weightText(mostBytes)}`);
  if (ppi !== null) said.push(`${ppi} px an inch`);
  if (watermark) said.push('with the watermark');
  return said.join(', ');
}

/** The densities a routine makes for a slot, lowest first. */
export function routineDensities({ densities }: ExportRoutine, slot: Pick<Slot, 'densities'>): readonly Density[] {
  return [...(densities ?? slot.densities)].sort((a, b) => a - b);
}

/** What a routine makes for a slot: its own file where the slot takes its format, otherwise the lightest. */
export function routineFile({ file }: ExportRoutine, slot: Pick<Slot, 'formats'>): ExportRoutine['file'] {
  return file !== 'lightest' && !slot.formats.includes(file.format) ? 'lightest' : file;
}

/** The most bytes a file of a routine may have in a slot: the smaller of both limits; null where there is none. */
export function routineMost({ mostBytes }: ExportRoutine, slot: Pick<Slot, 'mostBytes'>): number | null {
  if (mostBytes === null || slot.mostBytes === null) return mostBytes ?? slot.mostBytes;
  return Math.min(mostBytes, slot.mostBytes);
}
