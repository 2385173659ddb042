import { fail } from '../../errors.ts';
import type { CostObjects } from '../../ledger/coding.ts';
import type { RuleBody, RulePart, RuleResult, RuleTakes } from './rule.ts';

/** The version of rule files that is written, and the only one that is read. */
export const RULE_FILE_VERSION = 1;
export const RULE_FILE_FORMAT = 'zubrell-rules';

/** What a rule file names instead of ids. Accounts have a code and a name, bank accounts a number. */
export const namedKinds = [
  'account',
  'bankAccount',
  'payee',
  'taxCode',
  'costCentre',
  'job',
] as const;
export type NamedKind = (typeof namedKinds)[number];

/** A part of a rule in a file, with names in the place of ids. */
export interface FilePart {
  readonly account: string;
  readonly taxCode: string | null;
  readonly share: RulePart['share'];
  readonly costCentre?: string | undefined;
  readonly job?: string | undefined;
  readonly isRecharged?: boolean | undefined;
}

/** What a rule in a file does, with names in the place of ids. */
export type FileResult =
  | {
      readonly kind: 'code';
      readonly payee:
        | { readonly kind: 'fixed'; readonly name: string }
        | { readonly kind: 'bank' }
        | { readonly kind: 'open' };
      readonly parts: readonly FilePart[];
      readonly note: string | null;
    }
  | { readonly kind: 'transfer'; readonly bankAccount: string }
  | Extract<RuleResult, { kind: 'exclude' | 'ask' }>;

/** A rule as it stands in a file. */
export interface FileRule {
  readonly name: string;
  readonly takes: Omit<RuleTakes, 'bankAccountIds'> & {
    readonly bankAccounts: readonly string[] | null;
  };
  readonly result: FileResult;
  readonly after: RuleBody['after'];
}

/** Turns an id into a name for a file. */
export type NameOf = (kind: NamedKind, id: string) => string;
/** Turns a name of a file into an id; null where it names nothing. */
export type IdOf = (kind: NamedKind, name: string) => string | null;

/** A rule as it is written to a file. */
export function toFileRule(
  { name, takes, result, after }: RuleBody & { readonly name: string },
  nameOf: NameOf,
): FileRule {
  const { bankAccountIds, ...rest } = takes;
  return {
    name,
    takes: {
      ...rest,
      bankAccounts: bankAccountIds?.map((id) => nameOf('bankAccount', id)) ?? null,
    },
    result: toFileResult(result, nameOf),
    after,
  };
}

function toFileResult(result: RuleResult, nameOf: NameOf): FileResult {
  switch (result.kind) {
    case 'code':
      return {
        kind: 'code',
        payee:
          result.payee.kind === 'fixed'
            ? { kind: 'fixed', name: nameOf('payee', result.payee.payeeId) }
            : result.payee,
        parts: result.parts.map(
          ({ accountId, taxCodeId, share, costCentreId, jobId, isRecharged }) => ({
            account: nameOf('account', accountId),
            taxCode: taxCodeId === null ? null : nameOf('taxCode', taxCodeId),
            share,
            ...(costCentreId ? { costCentre: nameOf('costCentre', costCentreId) } : {}),
            ...(jobId ? { job: nameOf('job', jobId), isRecharged: isRecharged ?? false } : {}),
          }),
        ),
        note: result.note,
      };
    case 'transfer':
      return { kind: 'transfer', bankAccount: nameOf('bankAccount', result.bankAccountId) };
    default:
      return result;
  }
}

/** A name that a file uses. */
export interface UsedName {
  readonly kind: NamedKind;
  readonly name: string;
}

/** All that the rules of a file name, each once. */
export function namesIn(rules: readonly FileRule[]): readonly UsedName[] {
  const found = new Map<string, UsedName>();
  const use = (kind: NamedKind, name: string): string => {
    found.set(`${kind} ${name}`, { kind, name });
    return name;
  };
  for (const rule of rules) fromFileRule(rule, use);
  return [...found.values()];
}

/**
 * A rule of a file with ids in the place of names.
 *
 * @throws {ZubrellError} RULE_FILE_CHOICE where a name stands for nothing
 */
export function fromFileRule(rule: FileRule, idOf: IdOf): RuleBody & { readonly name: string } {
  const wanted = (kind: NamedKind, name: string): string =>
    idOf(kind, name) ?? fail('RULE_FILE_CHOICE', { name });
  const { bankAccounts, ...takes } = rule.takes;
  return {
    name: rule.name,
    takes: {
      ...takes,
      bankAccountIds: bankAccounts?.map((name) => wanted('bankAccount', name)) ?? null,
    },
    result: fromFileResult(rule.result, wanted),
    after: rule.after,
  };
}

function fromFileResult(
  result: FileResult,
  wanted: (kind: NamedKind, name: string) => string,
): RuleResult {
  switch (result.kind) {
    case 'code':
      return {
        kind: 'code',
        payee:
          result.payee.kind === 'fixed'
            ? { kind: 'fixed', payeeId: wanted('payee', result.payee.name) }
            : result.payee,
        parts: result.parts.map((part) => ({
          accountId: wanted('account', part.account),
          taxCodeId: part.taxCode === null ? null : wanted('taxCode', part.taxCode),
          share: part.share,
          ...objectsOf(part, wanted),
        })),
        note: result.note,
      };
    case 'transfer':
      return { kind: 'transfer', bankAccountId: wanted('bankAccount', result.bankAccount) };
    default:
      return result;
  }
}

function objectsOf(
  { costCentre, job, isRecharged }: FilePart,
  wanted: (kind: NamedKind, name: string) => string,
): CostObjects {
  return {
    ...(costCentre === undefined ? {} : { costCentreId: wanted('costCentre', costCentre) }),
    ...(job === undefined ? {} : { jobId: wanted('job', job), isRecharged: isRecharged ?? false }),
  };
}

/** Rules that take and do the same have the same key. */
export function ruleKey({ takes, result }: RuleBody): string {
  return sameText({ takes, result });
}

/** A value as text that is the same for the same content, in whatever order the keys of its objects stand. */
export function sameText(value: unknown): string {
  return JSON.stringify(sorted(value));
}

/** A value with the keys of its objects in one order. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (value === null || typeof value !== 'object') return value;
  const entries = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
  return Object.fromEntries(entries.map(([key, each]) => [key, sorted(each)]));
}
