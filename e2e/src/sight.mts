import sharp from 'sharp';
import { join } from 'node:path';
import { root, startApp } from './harness/app';
import { Browser } from './harness/browser';
const app = await startApp(); const browser = await Browser.open();
try {
  const big = await sharp(join(root, 'demo/pictures/kiln.jpg')).resize(6000, 4000, { fit: 'cover' }).jpeg({ quality: 88 }).toBuffer();
  await browser.go(`${app.app}/graphics`);
  await browser.find('bs-graphic-card', 60_000);
  await browser.press('New graphic');
  await browser.press('Form header, 1600 × 400');
  await browser.seeText('The canvas is empty');
  const r = await browser.driver.executeAsyncScript<any>(
    `const [base64, done] = arguments;
     const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
     const blob = new Blob([bytes], { type: 'image/jpeg' });
     (async () => {
       await createImageBitmap(blob);
       let start = performance.now();
       await createImageBitmap(blob);
       const decode = performance.now() - start;
       const data = new DataTransfer();
       data.items.add(new File([bytes], 'large.jpg', { type: 'image/jpeg' }));
       const canvas = document.querySelector('.lit canvas');
       const painted = () => canvas.getContext('2d').getImageData(canvas.width / 2, canvas.height / 2, 1, 1).data[3] > 0;
       start = performance.now();
       document.querySelector('bs-workbench-page').dispatchEvent(new DragEvent('drop', { bubbles: true, cancelable: true, dataTransfer: data }));
       while (!painted()) await new Promise(requestAnimationFrame);
       const sight = performance.now() - start;
       while (canvas.dataset.exact !== 'true') await new Promise(requestAnimationFrame);
       const o = performance.timeOrigin + start;
       done({ decode, sight, exact: performance.now() - start - sight, T: (globalThis.T ?? []).map(([n, t]) => n + ' ' + (t - o).toFixed(0)), W: (globalThis.W ?? []).map(([n, t]) => n + ' ' + (t - o).toFixed(0)) });
     })();`, big.toString('base64'));
  console.log(JSON.stringify(r, null, 1));
} finally { await browser.close(); await app.stop(); }
