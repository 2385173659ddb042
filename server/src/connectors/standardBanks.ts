import { readFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { z } from 'zod';
import type { StandardBank } from './accountInformationConnector.ts';

const Listed = z.strictObject({
  /** What feeds know it by: it must not change. */
  name: z.string().regex(/^[a-z][a-z0-9-]*$/, 'has to be of small letters, digits and hyphens'),
  bankName: z.string().min(1),
  url: z.url({ protocol: /^https?$/ }),
  /** Files in PEM, as seen from the list. */
  certificate: z.string().optional(),
  key: z.string().optional(),
  authority: z.string().optional(),
});

const List = z
  .array(Listed)
  .refine((banks) => new Set(banks.map(({ name }) => name)).size === banks.length, {
    message: 'two banks have one name',
  });

/**
 * The banks of a list, each by its name: what is needed of a bank that speaks the open account-information interface.
 *
 * @param file JSON: `[{ "name", "bankName", "url", "certificate", "key", "authority" }, …]`
 * @throws {Error} saying what is wrong in which file
 */
export function standardBanksOf(file: string): Map<string, StandardBank> {
  const read = (path: string) => readFileSync(resolve(dirname(file), path), 'utf8');
  const found = List.safeParse(jsonOf(file));
  if (!found.success) {
    const [issue] = found.error.issues;
    const place = issue?.path.join('.') ?? '';
    throw new Error(`ZUBRELL_BANKS, ${file}: ${place === '' ? '' : `${place}: `}${issue?.message}`);
  }
  const banks = found.data.map(({ name, bankName, url, certificate, key, authority }) => {
    const bank: StandardBank = {
      bankName,
      url,
      ...(certificate === undefined ? {} : { certificate: read(certificate) }),
      ...(key === undefined ? {} : { key: read(key) }),
      ...(authority === undefined ? {} : { authority: read(authority) }),
    };
    return [name, bank] as const;
  });
  return new Map(banks);
}

function jsonOf(file: string): unknown {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    throw new Error(`ZUBRELL_BANKS, ${file}, can’t be read: ${(error as Error).message}`);
  }
}
