import { sql } from 'drizzle-orm';
import { markHeld } from '../lines/markHeld.ts';
import { relearnLines } from '../lines/relearnLines.ts';
import { stopCorrected } from '../rules/stopCorrected.ts';
import type { Follow } from '../steps/follow.ts';
import { renewForDocuments, renewForEntries } from './renewNamed.ts';
import { renewNaming } from './renewNaming.ts';
import { renewAll, renewProposals, renewSoon } from './renewProposals.ts';
import { stemsReached } from './stemsReached.ts';

/** What follows for lines from what commands change. */
export const follow: Follow = {
  linesMoved: async ({ tx, booksId }, stems) => {
    await renewProposals(tx, booksId, stems);
  },
  linesDecided: async ({ tx, booksId }, { stems, amounts, targetIds }) => {
    const reached = await stemsReached(tx, booksId, amounts, targetIds);
    await renewSoon(tx, booksId, [...stems, ...reached]);
  },
  linesTaught: ({ tx, booksId }, stems) => renewSoon(tx, booksId, stems),
  decisionsEnded: ({ tx, booksId, step }, ids) => stopCorrected(tx, booksId, step, ids),
  entriesChanged: ({ tx, booksId }, ids) => renewForEntries(tx, booksId, ids),
  documentsChanged: ({ tx, booksId }, documents) => renewForDocuments(tx, booksId, documents),
  thingsChanged: ({ tx, booksId }, ids) => renewNaming(tx, booksId, ids),
  payeeMerged: async (command, payeeId) => {
    const stems = await relearnLines(command, sql`y.id = ${payeeId}`);
    await renewSoon(command.tx, command.booksId, stems);
  },
  accountChanged: async (command, accountId, hasOtherRole) => {
    const isThere = sql`d.coding #>> '{parts,0,accountId}' = ${accountId}`;
    const stems = await relearnLines(command, isThere);
    if (hasOtherRole) await renewAll(command.tx, command.booksId);
    else await renewSoon(command.tx, command.booksId, stems);
  },
  closingChanged: ({ tx, booksId }, bankAccountId) => markHeld(tx, booksId, bankAccountId),
  allChanged: ({ tx, booksId }) => renewAll(tx, booksId),
};
