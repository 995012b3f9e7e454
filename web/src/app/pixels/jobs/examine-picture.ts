import {
  STRAY_DEPTH,
  edgeBlurs,
  pictureTypes,
  sharpestBlur,
  strayLines,
  type Box,
  type Field,
  type Margins,
  type Pixels,
} from '@bright-slot/core';
import { isLocated } from '@bright-slot/core/formats/picture-details';
import { database } from '../../storage/database';
import type { Examined } from '../messages';
import { readable } from './stored-frames';
import type { Turn } from './turn';

/** Parts of a picture in which its edges are looked at: so many each way, each so many px. */
const PARTS = 4;
const PART = 192;

/** What is wrong with a picture's own pixels, and whether its file tells where it was taken. */
export async function examinePicture(asset: string, turn: Turn): Promise<Examined> {
  const whole = await readable(asset);
  await turn.pass();
  const { width, height } = whole;
  const across = Math.min(STRAY_DEPTH, width);
  const down = Math.min(STRAY_DEPTH, height);
  const small = width < 4 * STRAY_DEPTH || height < 4 * STRAY_DEPTH;
  const stray: Margins = small
    ? { top: 0, right: 0, bottom: 0, left: 0 }
    : strayLines({
        top: await whole.part({ x: 0, y: 0, width, height: down }),
        bottom: await whole.part({ x: 0, y: height - down, width, height: down }),
        left: await whole.part({ x: 0, y: 0, width: across, height }),
        right: await whole.part({ x: width - across, y: 0, width: across, height }),
      });
  const edges: number[] = [];
  for (let j = 0; j < PARTS; j++)
    for (let i = 0; i < PARTS; i++) {
      const box: Box = {
        x: Math.round(((width - Math.min(PART, width)) * i) / (PARTS - 1)),
        y: Math.round(((height - Math.min(PART, height)) * j) / (PARTS - 1)),
        width: Math.min(PART, width),
        height: Math.min(PART, height),
      };
      for (const blur of edgeBlurs(greyOf(await whole.part(box)))) edges.push(blur);
      await turn.pass();
    }
  return { stray, blur: sharpestBlur(edges), located: await locatedIn(asset) };
}

async function locatedIn(asset: string): Promise<boolean> {
  const record = await database().assets.get(asset);
  const type = pictureTypes.find((t) => t === record?.type);
  return record && type ? isLocated(new Uint8Array(await record.blob.arrayBuffer()), type) : false;
}

/** Encoded lightness 0…1, by the weights of Rec. ITU-R BT.601: how an edge looks, not how much light it sends. */
function greyOf({ data, width, height }: Pixels): Field {
  const grey = new Float32Array(width * height);
  for (let i = 0, p = 0; i < grey.length; i++, p += 4)
    grey[i] = (0.299 * data[p]! + 0.587 * data[p + 1]! + 0.114 * data[p + 2]!) / 255;
  return { width, height, data: grey };
}
