import {
  figure,
  filePixels,
  fitText,
  pictureFormats,
  roundingOf,
  setText,
  sizeText,
  weightText,
  type ShownAt,
  type Slot,
  type SlotSet,
} from '@bright-slot/core';

function shown(at: ShownAt): string {
  switch (at.mode) {
    case 'scales':
      return 'in proportion';
    case 'height':
      return `as wide as the page, ${figure(at.height)} high`;
    case 'size':
      return sizeText(at);
    case 'hidden':
      return 'not shown';
  }
}

function shape(slot: Slot): string {
  if (slot.shape.kind === 'ellipse') return 'round';
  return slot.shape.kind === 'rounded' ? `corners of ${figure(slot.shape.radius)} px` : 'straight';
}

function darkening({ darkening: d }: Slot): string {
  if (!d) return 'no';
  const how = `${d.kind === 'all' ? 'all over' : 'towards the foot'}, ${Math.round(d.strength * 100)} %`;
  return d.switchable ? `${how}; can be switched, now ${d.on ? 'on' : 'off'}` : how;
}

/** "252 × 600 px, runs over by 0.75 px": the whole pixels of a slot's file at a density, and what that costs. */
export function fileText(slot: Slot, density: number): string {
  const over = Math.max(roundingOf(slot.width, density).over, roundingOf(slot.height, density).over);
  return `${sizeText(filePixels(slot, density))} px${over > 0.005 ? `, runs over by ${figure(over)} px` : ''}`;
}

/** All that is known of a slot, as words and figures; what is plain is left out. */
export function slotFacts(slot: Slot, set: SlotSet | null): readonly (readonly [string, string])[] {
  const facts: [string, string][] = [
    [
      'Size',
      slot.anyWidth
        ? `${figure(slot.height)} px high at any width; made at ${figure(slot.width)}`
        : `${sizeText(slot)} px${slot.shownWidth === slot.width ? '' : `, shown ${figure(slot.shownWidth)} wide`}`,
    ],
  ];
  if (set) facts.push(['Stands in', `${setText(set)}: “${set.name}”`]);
  for (const density of slot.densities) facts.push([`File at ${density}×`, fileText(slot, density)]);
  if (slot.least) facts.push(['At least', `${sizeText(slot.least)} px`]);
  if (slot.most) facts.push(['At most', `${sizeText(slot.most)} px`]);
  facts.push(['Shape', shape(slot)]);
  facts.push(['Another size', `the page ${fitText(slot.fit)}`]);
  if (slot.covered.length) facts.push(['Laid over it', slot.covered.map((z) => `${z.what} ${sizeText(z)}`).join('; ')]);
  if (slot.safe.kind === 'insets')
    facts.push([
      'Safe area',
      `${[slot.safe.top, slot.safe.right, slot.safe.bottom, slot.safe.left].map((n) => figure(n)).join(', ')} px in`,
    ]);
  if (slot.safe.kind === 'boxes') facts.push(['Safe area', slot.safe.boxes.map((b) => sizeText(b)).join('; ')]);
  if (slot.darkening) facts.push(['Darkened', darkening(slot)]);
  if (slot.border) facts.push(['Border', `${figure(slot.border.width)} px, ${slot.border.colour}`]);
  if (slot.keepsTransparency) facts.push(['Transparency', 'kept']);
  facts.push([
    'Takes',
    `${slot.formats.map((f) => pictureFormats[f].name).join(', ')}${slot.mostBytes ? `, up to ${weightText(slot.mostBytes)}` : ''}`,
  ]);
  if (slot.wants === 'address') facts.push(['Wants', 'an address, not an upload']);
  if (slot.rowShows > 1) facts.push(['In its row', `${slot.rowShows} are shown`]);
  if (slot.oneOfSeveral) facts.push(['Several', 'one is shown at random']);
  facts.push(['On a tablet', shown(slot.tablet)], ['On a phone', shown(slot.phone)]);
  facts.push(['Figures from', `${slot.source}, ${slot.dated}`]);
  return facts;
}
