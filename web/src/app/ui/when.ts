/** A moment for people: the time alone today, with the day otherwise. `at` is ms since 1970 or an ISO date. */
export function whenText(at: number | string): string {
  const then = new Date(at);
  const now = new Date();
  const today = then.toDateString() === now.toDateString();
  return then.toLocaleString('en-GB', {
    hour: '2-digit',
    minute: '2-digit',
    ...(today ? {} : { day: 'numeric', month: 'short' }),
    ...(then.getFullYear() === now.getFullYear() ? {} : { year: 'numeric' }),
  });
}

/** Today where the person is, as 2026-11-25. */
export function today(): string {
  return new Date().toLocaleDateString('sv-SE');
}
