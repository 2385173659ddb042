import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { keysOf, makeKey, openSecrets } from './secrets.ts';

const [old, fresh] = [makeKey(), makeKey()];

it('what is sealed is opened with the same key about the same thing, and tells nothing', () => {
  const secrets = openSecrets([fresh]);
  fc.assert(
    fc.property(fc.string(), fc.string(), (secret, about) => {
      const sealed = secrets.seal(secret, about);
      expect(secrets.open(sealed, about)).toBe(secret);
      expect(secrets.seal(secret, about)).not.toBe(sealed);
      if (secret.length > 5) expect(sealed).not.toContain(secret);
      expect(() => secrets.open(sealed, `${about}.`)).toThrow();
    }),
  );
});

it('what was changed is not opened', () => {
  const secrets = openSecrets([fresh]);
  const sealed = secrets.seal('a token of a bank', 'consent');
  // The last character may hold bits that nothing reads.
  const other = sealed.at(-2) === 'A' ? 'B' : 'A';
  const changed = `${sealed.slice(0, -2)}${other}${sealed.at(-1)}`;
  expect(() => secrets.open(changed, 'consent')).toThrow();
  expect(() => secrets.open('a token as it was', 'consent')).toThrow('not known');
});

it('a new key opens what an old one sealed, as long as that is known', () => {
  const sealed = openSecrets([old]).seal('token', 'consent');
  const both = openSecrets([fresh, old]);
  expect(both.open(sealed, 'consent')).toBe('token');
  const renewed = both.renewed(sealed, 'consent') ?? '';
  expect(openSecrets([fresh]).open(renewed, 'consent')).toBe('token');
  expect(both.renewed(renewed, 'consent')).toBeNull();
  expect(openSecrets([fresh]).renewed(sealed, 'consent')).toBeNull();
  expect(() => openSecrets([fresh]).open(sealed, 'consent')).toThrow('not known');
});

it('keys are made with the first start, for their owner alone, or given', () => {
  const folder = mkdtempSync(join(tmpdir(), 'zubrell-keys-'));
  const made = keysOf({}, folder);
  const file = join(folder, 'keys');
  expect(keysOf({}, folder)).toEqual(made);
  expect(readFileSync(file, 'utf8').trim()).toBe(made[0]);
  expect(statSync(file).mode & 0o777).toBe(0o600);
  expect(keysOf({ ZUBRELL_KEYS: `${fresh}, ${old}` }, folder)).toEqual([fresh, old]);
  expect(() => openSecrets(['short'])).toThrow('32 bytes');
  rmSync(folder, { recursive: true });
});
