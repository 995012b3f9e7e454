/** Does something once the next frame is on screen: what is in that frame does not wait for it. Gives what calls it off. */
export function afterFrame(work: () => void): () => void {
  let later: ReturnType<typeof setTimeout> | undefined;
  const frame = requestAnimationFrame(() => (later = setTimeout(work)));
  return () => {
    cancelAnimationFrame(frame);
    clearTimeout(later);
  };
}
