/** Bytes for people: kB are thousands. */
export function weightText(bytes: number): string {
  if (bytes < 1000) return `${Math.round(bytes)} bytes`;
  if (bytes < 1e6) return `${(bytes / 1000).toFixed(bytes < 10_000 ? 1 : 0)} kB`;
  if (bytes < 1e9) return `${(bytes / 1e6).toFixed(bytes < 10e6 ? 1 : 0)} MB`;
  return `${(bytes / 1e9).toFixed(1)} GB`;
}
