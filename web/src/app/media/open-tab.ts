import { bad, good, type Result } from '@bright-slot/core';

/** Whether the browser can take a picture of an open tab or window. */
export const canTakeTab = (): boolean => typeof navigator.mediaDevices?.getDisplayMedia === 'function';

/** How long the first picture is waited for, ms. */
const LONGEST = 10_000;

/**
 * One picture of a tab or window that the person chooses in the browser's own dialogue. The capture ends as soon as it is
 * taken, or should anything go wrong. Screen Capture (W3C Working Draft), `getDisplayMedia`. Null where they think better of it.
 */
export async function pictureOfTab(): Promise<Result<File> | null> {
  let stream: MediaStream;
  try {
    stream = await navigator.mediaDevices.getDisplayMedia({ video: { displaySurface: 'browser' }, audio: false });
  } catch (error) {
    if (error instanceof DOMException && (error.name === 'NotAllowedError' || error.name === 'AbortError')) return null;
    return bad(
      'capture',
      'This browser could not take a picture of a tab. Take a screenshot and paste it here instead.',
    );
  }
  try {
    const video = document.createElement('video');
    video.muted = true;
    video.srcObject = stream;
    await video.play();
    // The first frame may still be empty.
    await Promise.race([
      new Promise<void>((done) => video.requestVideoFrameCallback(() => done())),
      new Promise<void>((_, fail) => setTimeout(() => fail(new Error('No frame came.')), LONGEST)),
    ]);
    const canvas = document.createElement('canvas');
    canvas.width = video.videoWidth;
    canvas.height = video.videoHeight;
    canvas.getContext('2d')!.drawImage(video, 0, 0);
    const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
    if (!blob) throw new Error('No picture came of it.');
    return good(new File([blob], 'open tab.png', { type: 'image/png' }));
  } catch {
    return bad('capture', 'No picture of that tab could be taken. Take a screenshot and paste it here instead.');
  } finally {
    for (const track of stream.getTracks()) track.stop();
  }
}
