import { pictureFormats, type PictureType } from '../formats/registry';
import type { Margins } from '../pixels/margins';
import { weightText } from '../formats/weight';
import { placed, type Placed } from './placed';
import { figure, filePixels, sizeText, topDensity, type Slot } from './slot';

/** What is known of a picture that is in use now. Sizes in file px. */
export interface CurrentPicture {
  readonly type: PictureType;
  readonly width: number;
  readonly height: number;
  readonly bytes: number;
  readonly opaque: boolean;
  readonly ppi: number | null;
  readonly profile: string | null;
  readonly margins: Margins | null;
}

export interface Remark {
  readonly id: string;
  readonly title: string;
  readonly detail: string;
}

export interface Diagnosis {
  readonly placed: Placed;
  /** What is wrong, worst first; empty where the picture suits the slot. */
  readonly remarks: readonly Remark[];
  /** Bytes sent for what no visitor sees. */
  readonly wasted: number;
}

const percent = (share: number) => `${Math.round(share * 100)} %`;

/** The lines along a side of what is seen that are empty, in file px. */
function emptySeen({ seen }: Placed, picture: CurrentPicture): number {
  if (!picture.margins) return 0;
  const above = Math.max(0, Math.min(picture.margins.top, seen.y + seen.height) - seen.y);
  const below = Math.max(0, seen.y + seen.height - Math.max(seen.y, picture.height - picture.margins.bottom));
  return Math.min(seen.height, above + below);
}

/** What a picture does in a slot: what a visitor sees of it, what is sent for nothing, and what to do. */
export function diagnose(picture: CurrentPicture, slot: Slot): Diagnosis {
  const density = topDensity(slot);
  const needs = filePixels(slot, density);
  const at = placed(picture, slot, slot.fit);
  const remarks: Remark[] = [];
  const ratio = (picture.height * slot.width) / (picture.width * slot.height) - 1;
  const seenScale = at.image.width / picture.width;
  const empty = emptySeen(at, picture);

  // Under half a per cent, whole pixels alone can be the cause.
  if (Math.abs(ratio) > 0.005) {
    const tall = ratio > 0;
    const [whole, part] = tall ? [picture.height, at.seen.height] : [picture.width, at.seen.width];
    const where =
      slot.fit === 'fills-top' || slot.fit === 'top-left'
        ? tall
          ? 'the top'
          : slot.fit === 'top-left'
            ? 'the left'
            : 'the middle'
        : 'the middle';
    const title = tall
      ? `Too tall for the slot, by ${percent(ratio)}`
      : `Too wide for the slot, by ${percent(1 / (1 + ratio) - 1)}`;
    const how =
      slot.fit === 'fits-within'
        ? `The page shrinks it to ${sizeText(at.image)} and leaves the rest of the slot bare.`
        : slot.fit === 'stretches'
          ? `The page stretches it to ${sizeText(slot)}, so everything in it is ${tall ? 'squashed' : 'drawn out'}.`
          : part < whole - 0.5
            ? `A visitor first sees ${where} ${figure(part, 0)} of its ${whole} px: ${percent(part / whole)}.${
                empty >= 1 && tall ? ` ${percent(empty / part)} of that is empty.` : ''
              }`
            : `It does not reach over the slot.`;
    remarks.push({
      id: 'ratio',
      title,
      detail: `${how} Make it ${needs.width} × ${needs.height} px: crop it to what matters.`,
    });
  } else if (empty >= 2)
    remarks.push({
      id: 'empty',
      title: `${percent(empty / at.seen.height)} of what is seen is empty`,
      detail: `Its margins are ${picture.margins!.top} px at the top and ${picture.margins!.bottom} px at the foot. Crop them away.`,
    });
  if (seenScale * density > 1.001 && slot.fit !== 'top-left')
    remarks.push({
      id: 'small',
      title: `Too few pixels: enlarged to ${percent(seenScale * density)}`,
      detail: `It has ${picture.width} × ${picture.height} px and the slot needs ${needs.width} × ${needs.height}, so it will look soft. Start from a larger picture.`,
    });
  // What the slot needs, against what is sent: parts that are cut off, and pixels beyond the density.
  const needed = Math.min(1, at.share * Math.min(1, (density * seenScale) ** 2));
  const wasted = picture.type === 'svg' ? 0 : Math.round(picture.bytes * (1 - needed));
  if (wasted > 2000 && needed < 0.9)
    remarks.push({
      id: 'waste',
      title: `About ${weightText(wasted)} of its ${weightText(picture.bytes)} are sent for nothing`,
      detail: `${
        at.share < 0.995 ? `${percent(1 - at.share)} of it is never seen. ` : ''
      }The slot needs ${needs.width} × ${needs.height} px; the file has ${picture.width} × ${picture.height}.`,
    });
  if (slot.mostBytes !== null && picture.bytes > slot.mostBytes)
    remarks.push({
      id: 'weight',
      title: `Heavier than the page takes: ${weightText(picture.bytes)}, ${weightText(slot.mostBytes)} is the most`,
      detail: 'Export it at the slot’s own pixels, at a lower quality or as WebP.',
    });
  if (!(slot.formats as readonly string[]).includes(picture.type))
    remarks.push({
      id: 'format',
      title: `The page does not take ${pictureFormats[picture.type].name}`,
      detail: `It takes ${slot.formats.map((f) => pictureFormats[f].name).join(', ')}.`,
    });
  if (slot.keepsTransparency && picture.opaque)
    remarks.push({
      id: 'opaque',
      title: 'Nothing in it is transparent',
      detail: `The page would let its own ground through. A ${pictureFormats[picture.type].name} with a sheet around the drawing shows as a box.`,
    });
  if (picture.profile !== null && !/srgb/i.test(picture.profile))
    remarks.push({
      id: 'profile',
      title: `Its colours are written for “${picture.profile}”`,
      detail: 'Some pages and programs leave the profile out, and colours go dull. Export it in sRGB.',
    });
  return { placed: at, remarks, wasted };
}
