import { fileTooLarge } from '../slot/slot';
import { defineRule, type Finding } from './rule';

/** A file of the slot's pixels has to be one that can be made: encoders and canvases have their limits. */
export const makeable = defineRule({
  id: 'makeable',
  about: 'Weight and file',
  what: 'A file of more pixels than can be made here.',
  by: [],
  mends: 'Nothing here mends it: a smaller slot, or a lower density.',
  passed: 'A file of its pixels can be made',
  needs: ['slot'],
  judge({ slot }): Finding[] {
    const detail = fileTooLarge(slot);
    return detail
      ? [
          {
            id: 'makeable',
            group: 'before',
            title: 'The slot asks for a larger file than can be made',
            detail,
            at: null,
            fixes: [],
          },
        ]
      : [];
  },
});
