import { slotsToStart } from '@bright-slot/core';
import { demo } from '../../../demo/src/index';

export { demo };
/** The slots that ship, and those of the demo's site: what the book holds once one looks round. */
export const everySlot = [...demo.slots, ...slotsToStart];
