import type { Endpoints } from '../endpoint.ts';
import { auditEndpoints } from './audit.ts';
import { boardEndpoints } from './board.ts';
import { booksEndpoints } from './books.ts';
import { closingEndpoints } from './closing.ts';
import { currencyEndpoints } from './currencies.ts';
import { documentEndpoints } from './documents.ts';
import { feedEndpoints } from './feeds.ts';
import { habitEndpoints } from './habits.ts';
import { handoverEndpoints } from './handover.ts';
import { intakeEndpoints } from './intake.ts';
import { jobEndpoints } from './jobs.ts';
import { journalEndpoints } from './journals.ts';
import { ledgerEndpoints } from './ledger.ts';
import { lineEndpoints } from './lines.ts';
import { pairingEndpoints } from './pairing.ts';
import { peopleEndpoints } from './people.ts';
import { questionEndpoints } from './questions.ts';
import { reportEndpoints } from './reports.ts';
import { ruleEndpoints } from './rules.ts';
import { sessionEndpoints } from './session.ts';
import { statementEndpoints } from './statements.ts';
import { stepEndpoints } from './steps.ts';
import { taxEndpoints } from './tax.ts';

/** Every endpoint there is, for what has to be true of each of them. */
export const allEndpoints: Endpoints = {
  ...auditEndpoints,
  ...boardEndpoints,
  ...booksEndpoints,
  ...closingEndpoints,
  ...currencyEndpoints,
  ...documentEndpoints,
  ...feedEndpoints,
  ...habitEndpoints,
  ...handoverEndpoints,
  ...intakeEndpoints,
  ...jobEndpoints,
  ...journalEndpoints,
  ...ledgerEndpoints,
  ...lineEndpoints,
  ...pairingEndpoints,
  ...peopleEndpoints,
  ...questionEndpoints,
  ...reportEndpoints,
  ...ruleEndpoints,
  ...sessionEndpoints,
  ...statementEndpoints,
  ...stepEndpoints,
  ...taxEndpoints,
};
