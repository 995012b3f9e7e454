import * as z from 'zod';
import { endingFor, fileFormats, pictureFormats, readUrl, valueOf, type WayIn } from '@bright-slot/core';
import { ask, readAll, type Asking } from '../ask';
import { WayProblem, statusProblem, type Entering, type Remote } from '../remote';

type Posted = Extract<WayIn, { kind: 'micropub' | 'form' }>;

/** Most that an answer to a posted file may be, bytes. */
const MOST_SAID = 2 ** 20;

const cannot = (what: string) => new WayProblem('cannot', `This way in does not ${what}.`);

/** A form's fields and its file as multipart/form-data (RFC 7578), written by the platform. */
async function multipart(form: FormData): Promise<{ body: Buffer; type: string }> {
  const whole = new Response(form);
  return { body: Buffer.from(await whole.arrayBuffer()), type: whole.headers.get('content-type')! };
}

const mimeOf = (name: string) =>
  pictureFormats[fileFormats.find((f) => name.endsWith(`.${endingFor(f)}`)) ?? 'jpeg'].mime;

function asker({ reach, signal, patience }: Pick<Entering, 'reach' | 'signal' | 'patience'>) {
  return async (address: string | URL, asking: Omit<Asking, 'reach' | 'signal'>) => {
    const url = new URL(address);
    const answer = await ask(url, { reach, signal, within: patience, ...asking });
    const said = (await readAll(answer, MOST_SAID))?.toString('utf8') ?? '';
    const location = answer.headers.location;
    return {
      status: answer.statusCode ?? 0,
      said,
      /** Absolute, where one is said. */
      location: location ? (readUrl(location, url)?.href ?? null) : null,
    };
  };
}

const Config = z.looseObject({ 'media-endpoint': z.string().optional() });
const Fault = z.looseObject({ error_description: z.string().max(300) });

/** A media endpoint (W3C Recommendation Micropub, section 3.6): the part is called `file`, the answer says where it is. */
export function micropub(entering: Entering<Extract<Posted, { kind: 'micropub' }>>): Remote {
  const { way, secret } = entering;
  const go = asker(entering);
  const bearer = { Authorization: `Bearer ${secret.password}`, Accept: 'application/json' };
  let media = way.address;
  const fault = (status: number, said: string, doing: string) => {
    // Section 3.8: what went wrong may be said in words.
    const words = Fault.safeParse(valueOf(said));
    return words.success && status !== 401
      ? new WayProblem('site', `The site says: “${words.data.error_description}”`)
      : statusProblem(status, doing);
  };
  return {
    async enter() {
      const asked = new URL(way.address);
      asked.searchParams.set('q', 'config');
      const { status, said } = await go(asked, { headers: bearer });
      if (status === 401 || status === 403) throw statusProblem(401, 'sign in');
      const config = Config.safeParse(valueOf(said));
      const named = status < 300 && config.success ? config.data['media-endpoint'] : undefined;
      if (!named) return 'The address is taken for the media endpoint itself.';
      media = new URL(named, way.address).href;
      return '';
    },
    names: () => Promise.resolve(null),
    read: () => Promise.reject(cannot('read files')),
    async write(name, bytes, { over, progress }) {
      if (over) throw cannot('write over files');
      const form = new FormData();
      form.set('file', new File([new Uint8Array(bytes)], name, { type: mimeOf(name) }));
      const { body, type } = await multipart(form);
      const { status, said, location } = await go(media, {
        method: 'POST',
        headers: { ...bearer, 'Content-Type': type },
        body,
        progress,
      });
      if (status !== 201 && status !== 202) throw fault(status, said, 'write');
      if (!location) throw new WayProblem('site', 'The site took the file but does not say where it is.');
      return location;
    },
    async remove(_name, address) {
      const body = Buffer.from(new URLSearchParams({ action: 'delete', url: address }).toString());
      const { status, said } = await go(way.address, {
        method: 'POST',
        headers: { ...bearer, 'Content-Type': 'application/x-www-form-urlencoded' },
        body,
      });
      if (![200, 201, 204].includes(status)) throw fault(status, said, 'remove files');
    },
    close: () => undefined,
  };
}

const Told = z.union([
  z.looseObject({ url: z.string() }).transform((t) => t.url),
  z.looseObject({ address: z.string() }).transform((t) => t.address),
  z.looseObject({ location: z.string() }).transform((t) => t.location),
]);

/** A form of the site's own, with the names of its fields as they were typed. */
export function form(entering: Entering<Extract<Posted, { kind: 'form' }>>): Remote {
  const { way, secret } = entering;
  const go = asker(entering);
  const basic: Record<string, string> =
    way.user && !way.secretField
      ? { Authorization: `Basic ${Buffer.from(`${way.user}:${secret.password}`).toString('base64')}` }
      : {};
  return {
    enter: () => Promise.resolve('A form signs you in as it takes the file.'),
    names: () => Promise.resolve(null),
    read: () => Promise.reject(cannot('read files')),
    async write(name, bytes, { over, progress }) {
      if (over) throw cannot('write over files');
      const fields = new FormData();
      for (const { name: field, value } of way.fields) fields.append(field, value.replaceAll('{name}', name));
      if (way.secretField) fields.append(way.secretField, secret.password);
      fields.append(way.fileField, new File([new Uint8Array(bytes)], name, { type: mimeOf(name) }));
      const { body, type } = await multipart(fields);
      const { status, said, location } = await go(way.address, {
        method: 'POST',
        headers: { ...basic, Accept: 'application/json, text/html', 'Content-Type': type },
        body,
        progress,
      });
      // A form may answer by leading on to a page (RFC 9110, 15.4.4).
      if (status < 200 || status >= 400) throw statusProblem(status, 'write');
      const told = Told.safeParse(valueOf(said));
      const where = told.success ? told.data : status === 201 ? location : null;
      return where ? (readUrl(where, way.address)?.href ?? null) : null;
    },
    remove: () => Promise.reject(cannot('remove files')),
    close: () => undefined,
  };
}
