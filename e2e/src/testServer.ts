import { join } from 'node:path';
import { buildBank } from '@zubrell/practice-bank/app';
import { openBank } from '@zubrell/practice-bank/bank';
import type { BankRecords } from '@zubrell/practice-bank/records';
import { practiceConnector } from '@zubrell/server/connectors/practiceConnector';
import { openLog } from '@zubrell/server/log';
import { openSetUp } from '@zubrell/server/modules/session/setUp';
import { projectFolder } from '@zubrell/server/projectFolder';
import { serve } from '@zubrell/server/serve';
import { makeTestDatabase } from '@zubrell/server/testing/harness';
import { testToday } from '@zubrell/server/testing/today';

/** The whole application on a database of its own. */
export interface TestServer {
  readonly url: string;
  /** The code by which the first user is made. */
  readonly setUpCode: string;
  stop(): Promise<void>;
}

/** What the test's bank knows: one customer with one account. */
const records: BankRecords = {
  bankName: 'Wick & Alder',
  consents: [],
  customers: [
    {
      user: 'mo',
      secret: 'clay',
      name: 'Larkmoor Kiln Works',
      accounts: [
        {
          id: 'everyday',
          name: 'Everyday',
          number: '4471',
          kind: 'current',
          currency: 'EUR',
          opening: 151_060,
          format: 'camt053',
          items: [
            {
              id: 'W1',
              date: '2026-04-02',
              announced: null,
              amount: -4_120,
              announcedAmount: null,
              wording: 'CRD PUR TIDEMARK FRT 20412',
              reference: null,
            },
            {
              id: 'W2',
              date: '2026-04-10',
              announced: '2026-04-07',
              amount: -2_500,
              announcedAmount: null,
              wording: 'MARKET PITCH',
              reference: null,
            },
          ],
        },
      ],
    },
  ],
};

/** Serves the built web on an empty database, with a practice bank to connect to. */
export async function startTestServer(): Promise<TestServer> {
  const { services, drop } = await makeTestDatabase();
  const bank = buildBank(openBank(records, testToday), { slowFor: 0 });
  const bankUrl = await bank.listen({ port: 0, host: '127.0.0.1' });
  const connectors = new Map([['practice', practiceConnector(bankUrl, records.bankName)]]);
  const running = await serve(
    { ...services, connectors },
    {
      port: 0,
      isSecure: false,
      hosts: [],
      trustedProxies: [],
      demoEmail: null,
      webFolder: join(projectFolder, 'web', 'dist'),
      log: openLog(null),
      metricsToken: null,
    },
  );
  return {
    url: running.url,
    setUpCode: (await openSetUp(services.database)) ?? '',
    stop: async () => {
      await running.stop();
      await bank.close();
      await drop();
    },
  };
}
