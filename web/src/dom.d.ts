/** What the DOM's types do not know yet. */
interface IntersectionObserverInit {
  /** How far outside of what scrolls a thing counts as seen (Intersection Observer, W3C, section 2.2). */
  scrollMargin?: string;
}

/** Prioritized Task Scheduling (WICG), `scheduler.yield`; not in every browser. */
// eslint-disable-next-line no-var
declare var scheduler: { yield?: () => Promise<void> } | undefined;
