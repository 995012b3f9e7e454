import { lookup } from 'node:dns';
import { Agent as HttpAgent } from 'node:http';
import { Agent as HttpsAgent, type AgentOptions } from 'node:https';
import { connect, isIP, type LookupFunction, type Socket } from 'node:net';
import ipaddr from 'ipaddr.js';

/** Whether an address is out on the public net, and not this computer or its own network. */
export function isPublicAddress(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  const ip = ipaddr.process(address);
  // IPv4-compatible addresses (RFC 4291, section 2.5.5.1) lead to what their last four bytes say.
  if (ip instanceof ipaddr.IPv6 && ip.parts.slice(0, 6).every((p) => p === 0)) return false;
  return ip.range() === 'unicast';
}

/** A host that leads to this computer or its own network, where that was not meant. */
export class NotPublic extends Error {
  // Libraries hand on an error's code when they wrap it.
  readonly code = 'NOT_PUBLIC';
}
/** A host that nobody named. */
export class NotNamed extends Error {
  readonly code = 'NOT_NAMED';

  constructor(readonly host: string) {
    super(`not named: ${host}`);
  }
}

/** Where connections may go. */
export interface Reach {
  /** The only hosts that are connected to; null for any. */
  readonly hosts: readonly string[] | null;
  /** Hosts that may lie on this computer or its own network. */
  readonly own: readonly string[];
  /** Certificate authorities beside the usual ones, PEM. */
  readonly ca?: string | undefined;
  /** Stands in for looking names up, in tests. */
  readonly lookup?: typeof lookup | undefined;
}

/** Anything that is out on the public net. */
export const anywherePublic: Reach = { hosts: null, own: [] };

const plainHost = (host: string) => host.replace(/^\[|\]$/g, '').toLowerCase();
const has = (hosts: readonly string[], host: string) => hosts.some((h) => plainHost(h) === plainHost(host));

/** Refuses a host by its name, or by its address where it is one. */
function look(host: string, reach: Reach): void {
  if (reach.hosts && !has(reach.hosts, host)) throw new NotNamed(host);
  if (isIP(plainHost(host)) && !isPublicAddress(plainHost(host)) && !has(reach.own, host)) throw new NotPublic();
}

/** Resolves names as ever, but hands on only what may be connected to: looked at when connecting, so that no later answer slips in. */
const lookupWithin =
  (reach: Reach): LookupFunction =>
  (name, options, done) => {
    (reach.lookup ?? lookup)(name, { ...options, all: true }, (error, found) => {
      if (error) return done(error, '');
      const open = has(reach.own, name) ? found : found.filter((a) => isPublicAddress(a.address));
      const [first] = open;
      if (!first) return done(new NotPublic(), '');
      if (options.all) done(null, open);
      else done(null, first.address, first.family);
    });
  };

/** Agents that connect within a reach only; redirects and names that resolve anew included. */
export function agents(reach: Reach): { http: HttpAgent; https: HttpsAgent } {
  const own: AgentOptions = {
    keepAlive: false,
    lookup: lookupWithin(reach),
    ...(reach.ca === undefined ? {} : { ca: reach.ca }),
  };
  const http = new HttpAgent(own);
  const https = new HttpsAgent(own);
  for (const agent of [http, https] as HttpAgent[]) {
    const plain = agent.createConnection.bind(agent);
    agent.createConnection = (options, done) => {
      look(String(options.host ?? ''), reach);
      return plain(options, done);
    };
  }
  return { http, https };
}

/** A connection within a reach, established; fails after `within` ms. */
export function connectWithin(host: string, port: number, reach: Reach, within: number): Promise<Socket> {
  return new Promise((done, fail) => {
    look(host, reach);
    const socket = connect({ host: plainHost(host), port, lookup: lookupWithin(reach) });
    const late = setTimeout(() => socket.destroy(Object.assign(new Error('late'), { code: 'ETIMEDOUT' })), within);
    socket.once('error', (error) => {
      clearTimeout(late);
      fail(error);
    });
    socket.once('connect', () => {
      clearTimeout(late);
      done(socket);
    });
  });
}

/** The address that a host is to be connected to within a reach, found by connecting once. */
export async function addressWithin(host: string, port: number, reach: Reach, within: number): Promise<string> {
  const socket = await connectWithin(host, port, reach, within);
  const address = socket.remoteAddress!;
  socket.destroy();
  return address;
}
