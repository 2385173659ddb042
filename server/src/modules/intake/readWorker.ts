import { once } from 'node:events';
import type { MessagePort } from 'node:worker_threads';
import { type ErrorCode, type ErrorParams, ZubrellError } from '@zubrell/core/errors';
import type { BankFileFacts, BankLine } from '@zubrell/core/formats/bankFile';
import { createBankFileReader, type ReadOptions } from '@zubrell/core/formats/readBankFile';
import { createSummary, type LinesSummary } from '@zubrell/core/intake/statementBalances';
import { copyRow } from './copyRows.ts';

/** What a reading thread is to do. */
export interface ReadTask {
  /** Pieces of the file come through it, null at the end; rows go back. */
  readonly port: MessagePort;
  readonly options: ReadOptions;
  /** Which statement's lines are wanted. */
  readonly statementIndex: number;
}

/** Answers each piece of the file. */
export interface ReadReply {
  /** Rows for COPY, in pieces. */
  readonly rows: readonly Uint8Array[];
  /** Nothing more is read: see the task's own answer for why. */
  readonly isOver: boolean;
}

/** What is known when the file is read. */
export interface ReadFacts {
  readonly file: BankFileFacts;
  /** Of the wanted statement's booked lines. */
  readonly summary: LinesSummary;
  /** Its lines that are only announced, up to {@link MOST_ANNOUNCED}. */
  readonly announced: readonly BankLine[];
}

/** What a reading thread gives back. Errors lose their class between threads, so they cross as data. */
export type ReadAnswer =
  | { readonly facts: ReadFacts }
  | { readonly error: { readonly code: ErrorCode; readonly params: ErrorParams } };

const MOST_ANNOUNCED = 1_000;
/** Rows go back in pieces of about this many characters. */
const PIECE = 256 * 1024;

/**
 * Reads a file that comes in pieces and sends one statement's booked lines back as rows for COPY. Runs
 * in a thread of the pool, which finds it under this name.
 *
 * @public
 */
export async function readRows({ port, options, statementIndex }: ReadTask): Promise<ReadAnswer> {
  const encoder = new TextEncoder();
  const sum = createSummary();
  const announced: BankLine[] = [];
  let position = 0;
  let text = '';
  let rows: Uint8Array[] = [];

  function flush(): void {
    if (text !== '') rows.push(encoder.encode(text));
    text = '';
  }

  const reader = createBankFileReader(options, (statement, line) => {
    if (statement !== statementIndex) return;
    if (line.isPending) {
      if (announced.length < MOST_ANNOUNCED) announced.push(line);
      return;
    }
    sum.add(line);
    text += copyRow(line, position);
    position += 1;
    if (text.length >= PIECE) flush();
  });

  function reply(isOver: boolean): void {
    flush();
    const message: ReadReply = { rows, isOver };
    port.postMessage(
      message,
      rows.map((piece) => piece.buffer as ArrayBuffer),
    );
    rows = [];
  }

  // Where reading is broken off the other side closes the port, and no piece comes any more.
  const brokenOff = new AbortController();
  port.once('close', () => brokenOff.abort());
  try {
    for (;;) {
      const [piece]: (Uint8Array | null)[] = await once(port, 'message', {
        signal: brokenOff.signal,
      });
      if (!piece) break;
      reader.write(piece);
      reply(false);
    }
    const file = await reader.end();
    reply(true);
    return { facts: { file, summary: sum.summary, announced } };
  } catch (error) {
    rows = [];
    text = '';
    reply(true);
    if (!(error instanceof ZubrellError)) throw error;
    return { error: { code: error.code, params: error.params } };
  } finally {
    port.close();
  }
}
