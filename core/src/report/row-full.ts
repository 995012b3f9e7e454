import { defineRule, type Finding } from './rule';

/** A row shows so many; what comes after is never seen. */
export const rowFull = defineRule({
  id: 'row-full',
  about: 'Page',
  what: 'More graphics for a slot than its row on the page shows.',
  by: [],
  mends: 'Nothing here mends it: choose which of them the page is to show.',
  passed: ({ slot, alike }) =>
    slot.rowShows > 1 ? `The page’s row shows ${slot.rowShows}; there are ${alike}` : 'The page shows all there are',
  needs: ['slot', 'alike'],
  judge({ slot, alike }): Finding[] {
    // Where the page shows one, the others are tries or follow one another.
    if (slot.rowShows < 2 || slot.oneOfSeveral || alike <= slot.rowShows) return [];
    return [
      {
        id: 'row-full',
        group: 'time',
        title: `The page’s row shows ${slot.rowShows}; there are ${alike} graphics for it`,
        detail: 'Those after the last place are not seen by anybody. Choose which of them go up.',
        at: null,
        figures: [alike],
        fixes: [],
      },
    ];
  },
});
