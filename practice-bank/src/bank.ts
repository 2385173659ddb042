import { randomUUID } from 'node:crypto';
import { addDays, type CalendarDate } from '@zubrell/core/dates/calendarDate';
import type { BankStatement } from '@zubrell/core/formats/bankFile';
import type { Account, BankRecords, Consent, Customer } from './records.ts';
import { report, statementOf } from './report.ts';
import type { Switch } from './switches.ts';

/** A consent that is asked for and not answered yet. */
export interface ConsentRequest {
  readonly id: string;
  readonly app: string;
  /** Where the customer is sent after answering. @param code null where access was refused */
  readonly back: (code: string | null) => string;
  /** Who has signed in to answer it. */
  user: string | null;
}

/** The practice bank behind its web pages and its API; it forgets all but its records at a restart. */
export interface Bank {
  readonly records: BankRecords;
  readonly troubles: Set<Switch>;
  /** The day it is at the bank. */
  today: CalendarDate;
  /** Asks for a consent; a customer answers it on its page. */
  ask(request: Pick<ConsentRequest, 'app' | 'back'>): ConsentRequest;
  requestOf(id: string): ConsentRequest | null;
  /** Takes a request away because it was refused. */
  refuse(request: ConsentRequest): void;
  /** The consent that a request was answered with; null where it was not, or was refused. */
  answerTo(id: string): Consent | null;
  /** Signs a customer in to answer a request. @returns the customer, or null where that fails */
  signIn(request: ConsentRequest, user: string, secret: string): Customer | null;
  /** Allows access to accounts. @returns a code, good for one token */
  allow(request: ConsentRequest, accountIds: readonly string[]): string;
  /** @returns null where the code is unknown or used */
  redeem(code: string): Consent | null;
  /** @returns null where the token is unknown or its consent has expired */
  consentOf(token: string): Consent | null;
  accountsOf(consent: Consent): readonly Account[];
  report(account: Account, from: CalendarDate, to: CalendarDate): string;
  /** What {@link report} writes, before it is written. */
  statement(account: Account, from: CalendarDate, to: CalendarDate): BankStatement;
}

/** A consent holds for so many days. */
const CONSENT_DAYS = 90;

/** Opens the bank on its records. */
export function openBank(records: BankRecords, today: CalendarDate): Bank {
  const requests = new Map<string, ConsentRequest>();
  const consents = new Map(records.consents.map((consent) => [consent.token, consent]));
  const codes = new Map<string, Consent>();
  /** By the request that they answer. */
  const answers = new Map<string, Consent>();
  const troubles = new Set<Switch>();
  const customerOf = (user: string) => records.customers.find((each) => each.user === user);
  const told = new Set<string>();
  let reports = 0;
  return {
    records,
    troubles,
    today,
    ask(wanted) {
      const request: ConsentRequest = { ...wanted, id: randomUUID(), user: null };
      requests.set(request.id, request);
      return request;
    },
    requestOf: (id) => requests.get(id) ?? null,
    signIn(request, user, secret) {
      const customer = customerOf(user);
      if (troubles.has('refuseSignIn') || customer?.secret !== secret) return null;
      request.user = user;
      return customer;
    },
    allow(request, accountIds) {
      const code = randomUUID();
      const expires = addDays(this.today, CONSENT_DAYS);
      const consent: Consent = {
        token: randomUUID(),
        user: request.user ?? '',
        accountIds: [...accountIds],
        expires,
      };
      codes.set(code, consent);
      answers.set(request.id, consent);
      requests.delete(request.id);
      return code;
    },
    refuse: (request) => void requests.delete(request.id),
    answerTo(id) {
      const consent = answers.get(id) ?? null;
      if (consent) consents.set(consent.token, consent);
      return consent;
    },
    redeem(code) {
      const consent = codes.get(code) ?? null;
      codes.delete(code);
      if (consent) consents.set(consent.token, consent);
      return consent;
    },
    consentOf(token) {
      const consent = consents.get(token);
      if (!consent || consent.expires < this.today || troubles.has('expireConsents')) return null;
      return consent;
    },
    accountsOf(consent) {
      const accounts = customerOf(consent.user)?.accounts ?? [];
      return accounts.filter(({ id }) => consent.accountIds.includes(id));
    },
    report(account, from, to) {
      reports += 1;
      return report(account, { from, to, today: this.today, answer: reports, troubles, told });
    },
    statement(account, from, to) {
      reports += 1;
      return statementOf(account, { from, to, today: this.today, answer: reports, troubles, told });
    },
  };
}
