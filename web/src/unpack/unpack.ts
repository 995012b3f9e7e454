/// <reference lib="webworker" />
import decompress from 'woff2-encoder/decompress';

/** Unpacks WOFF2 to bare OpenType: in a worker of its own, since its library makes functions from text. */
addEventListener('message', (event: MessageEvent<unknown>) => {
  if (!(event.data instanceof ArrayBuffer)) return;
  decompress(event.data).then(
    (bytes) => {
      const font = bytes.slice().buffer;
      postMessage({ font }, [font]);
    },
    () => postMessage({ problem: 'damaged' }),
  );
});
