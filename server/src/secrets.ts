import { createCipheriv, createDecipheriv, createHash, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** Keeps secrets of others, as the tokens of consents, so that the database alone does not tell them. */
export interface Secrets {
  /** @param about what it belongs to; only with the same is it opened */
  seal(secret: string, about: string): string;
  /** @throws where it was sealed with a key that is not known any more, or about something else, or was changed */
  open(sealed: string, about: string): string;
  /** The same sealed with the key that is used now; null where it is already, or can't be opened. */
  renewed(sealed: string, about: string): string | null;
}

/** A key of AES-256 in base64: 32 bytes. */
const KEY_LENGTH = 32;
const VERSION = 'v1';

/** Keys in base64: the first seals, the others open what was sealed before it. @throws where one is no key */
export function openSecrets(keys: readonly string[]): Secrets {
  const known = keys.map((key) => {
    const bytes = Buffer.from(key, 'base64');
    if (bytes.length !== KEY_LENGTH) {
      throw new Error('A key of ZUBRELL_KEYS is not 32 bytes in base64: openssl rand -base64 32');
    }
    return { bytes, id: createHash('sha256').update(bytes).digest('base64url').slice(0, 8) };
  });
  const [current] = known;
  if (!current) throw new Error('There is no key to keep secrets with');
  const isCurrent = (sealed: string) => sealed.startsWith(`${VERSION}.${current.id}.`);
  const secrets: Secrets = {
    seal(secret, about) {
      const nonce = randomBytes(12);
      const cipher = createCipheriv('aes-256-gcm', current.bytes, nonce).setAAD(Buffer.from(about));
      const sealed = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final()]);
      const parts = [nonce, cipher.getAuthTag(), sealed].map((part) => part.toString('base64url'));
      return [VERSION, current.id, ...parts].join('.');
    },
    open(sealed, about) {
      const [version, id, nonce = '', tag = '', text = ''] = sealed.split('.');
      const key = known.find((each) => each.id === id);
      if (version !== VERSION || !key) throw new Error('sealed with a key that is not known');
      const decipher = createDecipheriv('aes-256-gcm', key.bytes, Buffer.from(nonce, 'base64url'))
        .setAAD(Buffer.from(about))
        .setAuthTag(Buffer.from(tag, 'base64url'));
      const opened = [decipher.update(Buffer.from(text, 'base64url')), decipher.final()];
      return Buffer.concat(opened).toString('utf8');
    },
    renewed(sealed, about) {
      if (isCurrent(sealed)) return null;
      try {
        return secrets.seal(secrets.open(sealed, about), about);
      } catch {
        return null;
      }
    },
  };
  return secrets;
}

/** A new key. */
export function makeKey(): string {
  return randomBytes(KEY_LENGTH).toString('base64');
}

/**
 * The keys of a server: `ZUBRELL_KEYS`, separated by commas, or those in a file of the data folder, one a line, which is
 * made with the first start and is for its owner alone.
 */
export function keysOf(env: NodeJS.ProcessEnv, dataFolder: string): readonly string[] {
  const { ZUBRELL_KEYS: given } = env;
  if (given !== undefined) return listed(given.split(','));
  const file = join(dataFolder, 'keys');
  if (!existsSync(file)) {
    mkdirSync(dataFolder, { recursive: true });
    writeFileSync(file, `${makeKey()}\n`, { mode: 0o600 });
  }
  return listed(readFileSync(file, 'utf8').split('\n'));
}

function listed(keys: readonly string[]): readonly string[] {
  return keys.map((key) => key.trim()).filter((key) => key !== '');
}
