import { Unpacking, inOrder, type Graphic, type Step } from '@bright-slot/core';
import type { Browser } from './browser';

/** The head of a graphic as it is stored apart. */
export async function storedHead(browser: Browser, id: string): Promise<Step> {
  return browser.driver.executeAsyncScript<Step>(
    `const [id, done] = arguments;
     indexedDB.open('bright-slot').onsuccess = (e) => {
       const db = e.target.result;
       db.transaction('heads').objectStore('heads').get(id).onsuccess = (r) => { db.close(); done(r.target.result.step); };
     };`,
    id,
  );
}

/** Writes a head over, as another version, or another tab, would; `record` changes the graphic's own record. */
export async function writeHead(browser: Browser, step: Step, record: object = {}): Promise<void> {
  await browser.driver.executeAsyncScript(
    `const [step, change, done] = arguments;
     indexedDB.open('bright-slot').onsuccess = (e) => {
       const db = e.target.result;
       const t = db.transaction(['graphics', 'steps', 'heads', 'listed'], 'readwrite');
       t.objectStore('steps').put(step);
       t.objectStore('heads').put({ id: step.graphicId, step, depth: 0, weight: 0 });
       const { version, name, frames } = step.graphic;
       t.objectStore('listed').put({ id: step.graphicId, head: step.id, version, name, frames });
       t.objectStore('graphics').get(step.graphicId).onsuccess = (r) =>
         t.objectStore('graphics').put({ ...r.target.result, head: step.id, ...change });
       t.oncomplete = () => { db.close(); done(); };
     };`,
    step,
    record,
  );
}

/** Changes the graphic at a head. */
export async function changeHead(browser: Browser, id: string, change: (graphic: Graphic) => unknown): Promise<void> {
  const step = await storedHead(browser, id);
  await writeHead(browser, { ...step, graphic: change(step.graphic) as Graphic });
}

/** All steps of all graphics, made whole. */
export async function storedSteps(browser: Browser): Promise<unknown[]> {
  const ids = await browser.driver.executeAsyncScript<string[]>(
    `const [done] = arguments;
     indexedDB.open('bright-slot').onsuccess = (e) => {
       const db = e.target.result;
       db.transaction('steps').objectStore('steps').getAllKeys().onsuccess = (r) => { db.close(); done(r.target.result); };
     };`,
  );
  const records: unknown[] = [];
  for (let i = 0; i < ids.length; i += 100)
    records.push(
      ...(await browser.driver.executeAsyncScript<unknown[]>(
        `const [ids, done] = arguments;
         indexedDB.open('bright-slot').onsuccess = (e) => {
           const db = e.target.result;
           const store = db.transaction('steps').objectStore('steps');
           Promise.all(ids.map((id) => new Promise((go) => (store.get(id).onsuccess = (r) => go(r.target.result)))))
             .then((all) => { db.close(); done(all); });
         };`,
        ids.slice(i, i + 100),
      )),
    );
  const unpacking = new Unpacking();
  return [...inOrder(records)].map((record) => unpacking.whole(record));
}
