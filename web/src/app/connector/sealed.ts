import * as z from 'zod';
import { Secret, bad, good, type Result } from '@bright-slot/core';

/** Rounds of PBKDF2-HMAC-SHA256: OWASP’s Password Storage Cheat Sheet (2023). */
const ROUNDS = 600_000;

const bytes = z.instanceof(Uint8Array<ArrayBuffer>);

/** What signs in at a site, encrypted: AES-GCM (NIST SP 800-38D) under a key made of a passphrase (RFC 8018, PBKDF2). */
export const Sealed = z.object({
  site: z.string().min(1).max(64),
  rounds: z.number().int().min(100_000).max(10_000_000),
  salt: bytes,
  iv: bytes,
  sealed: bytes,
});
export type Sealed = z.infer<typeof Sealed>;

async function keyOf(passphrase: string, salt: Uint8Array<ArrayBuffer>, iterations: number): Promise<CryptoKey> {
  const words = new TextEncoder().encode(passphrase.normalize('NFC'));
  const raw = await crypto.subtle.importKey('raw', words, 'PBKDF2', false, ['deriveKey']);
  return crypto.subtle.deriveKey(
    { name: 'PBKDF2', hash: 'SHA-256', salt, iterations },
    raw,
    { name: 'AES-GCM', length: 256 },
    false,
    ['encrypt', 'decrypt'],
  );
}

/** What a sealed secret is bound to: it opens for no other site. */
const boundTo = (site: string) => new TextEncoder().encode(site);

/** Encrypts what signs in at a site. */
export async function seal(site: string, secret: Secret, passphrase: string, rounds = ROUNDS): Promise<Sealed> {
  const salt = crypto.getRandomValues(new Uint8Array(16));
  const iv = crypto.getRandomValues(new Uint8Array(12));
  const key = await keyOf(passphrase, salt, rounds);
  const plain = new TextEncoder().encode(JSON.stringify(secret));
  const sealed = await crypto.subtle.encrypt({ name: 'AES-GCM', iv, additionalData: boundTo(site) }, key, plain);
  return { site, rounds, salt, iv, sealed: new Uint8Array(sealed) };
}

/** Opens it again. Fails with `passphrase` where that is another one, or where what is kept was changed. */
export async function unseal(kept: Sealed, passphrase: string): Promise<Result<Secret>> {
  const key = await keyOf(passphrase, kept.salt, kept.rounds);
  try {
    const how = { name: 'AES-GCM', iv: kept.iv, additionalData: boundTo(kept.site) };
    const plain = await crypto.subtle.decrypt(how, key, kept.sealed);
    return good(Secret.parse(JSON.parse(new TextDecoder().decode(plain))));
  } catch {
    return bad('passphrase', 'That passphrase does not open it. Try again, or type the password itself.');
  }
}
