import { pbkdf2Sync, createDecipheriv } from 'node:crypto';
import { seal, unseal } from './sealed';

const secret = { password: 'mill-stream-4711', key: '' };

it('opens with its passphrase alone, and only for its site', async () => {
  const kept = await seal('shop', secret, 'grün wie die Glasur');
  expect(kept.rounds).toBeGreaterThanOrEqual(600_000);
  expect(await unseal(kept, 'grün wie die Glasur')).toEqual({ ok: true, value: secret });
  // However the letters were typed (The Unicode Standard, section 3.11: one way to write an ü or two).
  expect((await unseal(kept, 'grün wie die Glasur'.normalize('NFD'))).ok).toBe(true);
  expect(await unseal(kept, 'grün')).toMatchObject({ ok: false, problem: { code: 'passphrase' } });
  expect((await unseal({ ...kept, site: 'other' }, 'grün wie die Glasur')).ok).toBe(false);
  const torn = { ...kept, sealed: kept.sealed.map((b, i) => (i === 3 ? b ^ 1 : b)) };
  expect((await unseal(torn, 'grün wie die Glasur')).ok).toBe(false);
  expect(new TextDecoder('latin1').decode(kept.sealed)).not.toContain('mill');
});

it('is what another implementation makes of the same standards, and never the same twice', async () => {
  const [a, b] = [await seal('shop', secret, 'x', 100_000), await seal('shop', secret, 'x', 100_000)];
  expect([...a.iv]).not.toEqual([...b.iv]);
  expect([...a.salt]).not.toEqual([...b.salt]);
  // OpenSSL, by Node.
  const key = pbkdf2Sync('x', a.salt, a.rounds, 32, 'sha256');
  const open = createDecipheriv('aes-256-gcm', key, a.iv);
  open.setAAD(Buffer.from('shop'));
  open.setAuthTag(a.sealed.subarray(-16));
  const plain = Buffer.concat([open.update(a.sealed.subarray(0, -16)), open.final()]);
  expect(JSON.parse(plain.toString())).toEqual(secret);
});
