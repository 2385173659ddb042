import type { CalendarDate } from '@zubrell/core/dates/calendarDate';
import type { AccountId } from '@zubrell/core/ids';

/** An account that a consent gives access to, as its bank calls it. */
export interface RemoteAccount {
  readonly id: string;
  readonly name: string;
  readonly number: string | null;
}

/** A consent that was asked for. */
export interface AskedConsent {
  /** Where the customer signs in. */
  readonly page: string;
  /** What the bank calls it already now; null where it gives a code when it sends its customer back. */
  readonly name: string | null;
}

/** A consent as the bank gave it. */
export interface GivenConsent {
  /** Shown with each request; never leaves the server. */
  readonly token: string;
  readonly expires: CalendarDate | null;
}

/** A bank's answer to a fetch. */
export interface FetchedLines {
  /** A bank file, in any format that is read. */
  readonly bytes: AsyncIterable<Uint8Array>;
  /** Requests that it still takes today, where it says so. */
  readonly callsLeft: number | null;
}

/**
 * What a bank must be able to do to feed lines. Every method throws the errors of the table whose names
 * begin with FEED_.
 */
export interface BankConnector {
  readonly bankName: string;
  /**
   * Asks for a consent.
   *
   * @param state comes back with the answer
   * @param returnTo the page that the bank sends its customer back to, with `state` and `code` or `error`
   */
  askConsent(state: string, returnTo: string): Promise<AskedConsent>;
  /**
   * Turns an answer of the customer into the consent.
   *
   * @param code as the bank gave it when it sent its customer back
   * @param name what the bank called the consent when it was asked for
   */
  finishConsent(code: string, name: string | null): Promise<GivenConsent>;
  accounts(token: string): Promise<readonly RemoteAccount[]>;
  /** The lines booked from one day to another, both included, and what is announced. */
  fetchLines(
    token: string,
    accountId: AccountId,
    from: CalendarDate,
    to: CalendarDate,
  ): Promise<FetchedLines>;
}
