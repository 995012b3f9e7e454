/** What was typed into the field that an event came from. */
export const valueOf = (event: Event): string => (event.target as HTMLInputElement).value;

/** What was typed into the number field that an event came from; NaN where it is none. */
export const numberOf = (event: Event): number => (event.target as HTMLInputElement).valueAsNumber;

/** Whether the box that an event came from is ticked. */
export const tickedOf = (event: Event): boolean => (event.target as HTMLInputElement).checked;
