import { Folder, WayIn, WebAddress, bad, good, readUrl, type Result, type SiteRecord } from '@bright-slot/core';

/** A site and its way in, as they are typed: texts, none of them sound yet. */
export interface WayFields {
  readonly name: string;
  readonly address: string;
  readonly kind: WayIn['kind'];
  /** The folder's or the endpoint's or the form's address. */
  readonly at: string;
  readonly host: string;
  readonly port: string;
  readonly user: string;
  readonly folder: string;
  /** Empty: as is to be expected of the rest. */
  readonly visitors: string;
  readonly secure: boolean;
  readonly plain: boolean;
  readonly ownNetwork: boolean;
  readonly hostKey: string | null;
  readonly fileField: string;
  readonly secretField: string;
  /** `name=value`, a line each. */
  readonly fields: string;
}

const nothing: WayFields = {
  name: '',
  address: '',
  kind: 'webdav',
  at: '',
  host: '',
  port: '22',
  user: '',
  folder: '',
  visitors: '',
  secure: true,
  plain: false,
  ownNetwork: false,
  hostKey: null,
  fileField: 'file',
  secretField: '',
  fields: '',
};

/** The fields of a site that is known; of a new one where there is none. */
export function fieldsOf(site: SiteRecord | null): WayFields {
  if (!site) return nothing;
  const { name, address, way } = site;
  const own = { ...nothing, name, address, kind: way.kind };
  switch (way.kind) {
    case 'stand-in':
      return own;
    case 'by-hand':
      return { ...own, visitors: way.visitors, ownNetwork: way.ownNetwork };
    case 'sftp':
    case 'ftp':
      return { ...own, ...way, port: String(way.port) };
    case 'form': {
      const fields = way.fields.map((f) => `${f.name}=${f.value}`).join('\n');
      return { ...own, ...way, name, address, kind: way.kind, at: way.address, fields };
    }
    case 'webdav':
    case 'micropub':
      return { ...own, ...way, name, address, kind: way.kind, at: way.address };
  }
}

/** An address as people type it: without a scheme it is https. */
export function asAddress(typed: string): string {
  const text = typed.trim();
  return text === '' || /^[a-z]+:\/\//i.test(text) ? text : `https://${text}`;
}

/** Where visitors find the files, as far as it is not typed: the folder below the site's address. */
export function expectedVisitors(f: WayFields): string {
  if (f.kind === 'webdav') return asAddress(f.at);
  const site = asAddress(f.address).replace(/\/?$/, '/');
  const folder = f.folder.replace(/^\/+/, '').replace(/^(www|htdocs|html|public_html|web)\//, '');
  return f.address.trim() && readUrl(site)
    ? site + (f.kind === 'form' ? '' : folder.split('/').map(encodeURIComponent).join('/'))
    : '';
}

/** The way in that was typed; a sentence on what is missing where it is none yet. */
export function wayFrom(f: WayFields): Result<WayIn> {
  const accepted = { plain: f.plain, ownNetwork: f.ownNetwork };
  const visitors = asAddress(f.visitors) || expectedVisitors(f);
  const web = (text: string, what: string) =>
    WebAddress.safeParse(asAddress(text)).success ? null : bad('address', `Type ${what}, beginning with https://.`);
  const host = f.host
    .trim()
    .replace(/^[a-z]+:\/\//i, '')
    .replace(/\/.*$/, '');
  const port = Number(f.port);
  let missing: ReturnType<typeof bad> | null = null;
  let way: unknown;
  switch (f.kind) {
    case 'stand-in':
      way = { kind: f.kind };
      break;
    case 'webdav':
      missing = web(f.at, 'the address of the folder');
      way = { kind: f.kind, address: asAddress(f.at), user: f.user.trim(), visitors, ...accepted };
      break;
    case 'sftp':
    case 'ftp':
      if (!host) missing = bad('host', 'Type the host, as in files.your-site.example.');
      else if (!f.user.trim()) missing = bad('user', 'Type the name you sign in with.');
      else if (!Number.isInteger(port) || port < 1 || port > 65_535) missing = bad('port', 'A port is 1 to 65535.');
      else if (!Folder.safeParse(f.folder.trim()).success) missing = bad('folder', 'That is no folder: it climbs out.');
      way =
        f.kind === 'sftp'
          ? {
              kind: f.kind,
              host,
              port,
              user: f.user.trim(),
              folder: f.folder.trim(),
              visitors,
              hostKey: f.hostKey,
              ownNetwork: f.ownNetwork,
            }
          : {
              kind: f.kind,
              host,
              port,
              user: f.user.trim(),
              folder: f.folder.trim(),
              visitors,
              secure: f.secure,
              ...accepted,
            };
      break;
    case 'micropub':
      missing = web(f.at, 'the address of the endpoint');
      way = { kind: f.kind, address: asAddress(f.at), ...accepted };
      break;
    case 'form': {
      missing = web(f.at, 'the address that the form is sent to');
      const lines = f.fields.split('\n').filter((l) => l.trim());
      const fields = lines.map((l) => ({
        name: l.split('=')[0]!.trim(),
        value: l.split('=').slice(1).join('=').trim(),
      }));
      way = {
        kind: f.kind,
        address: asAddress(f.at),
        fileField: f.fileField.trim(),
        fields,
        secretField: f.secretField.trim(),
        user: f.user.trim(),
        visitors,
        ...accepted,
      };
      break;
    }
    case 'by-hand':
      way = { kind: f.kind, visitors: f.visitors.trim() ? visitors : '', ownNetwork: f.ownNetwork };
      break;
  }
  if (missing) return missing;
  if (f.kind !== 'micropub' && f.kind !== 'by-hand' && f.kind !== 'stand-in' && !WebAddress.safeParse(visitors).success)
    return bad('visitors', 'Say at which address visitors find the files.');
  const read = WayIn.safeParse(way);
  return read.success ? good(read.data) : bad('way', 'Something of that cannot be right yet. Look it over.');
}
